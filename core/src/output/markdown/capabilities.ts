import type { Capabilities } from '../format.js';

export const capabilities: Capabilities = {
  pageNumbers: false,
  allCandidates: false,
  playsRecordings: false,
  carriesRecording: () => true,
  relativeAddresses: true,
  hasLooks: false,
};
