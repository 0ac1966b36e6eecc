import type { Capabilities } from '../format.js';

export const capabilities: Capabilities = {
  pageNumbers: false,
  allCandidates: true,
  playsRecordings: true,
  carriesRecording: () => true,
  relativeAddresses: true,
  hasLooks: true,
};
