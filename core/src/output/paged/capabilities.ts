import type { Capabilities } from '../format.js';

export const capabilities: Capabilities = {
  pageNumbers: true,
  allCandidates: false,
  playsRecordings: false,
  carriesRecording: () => false,
  relativeAddresses: false,
  hasLooks: true,
};
