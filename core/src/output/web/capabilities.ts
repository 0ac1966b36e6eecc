import type { Capabilities } from '../format.js';

export const capabilities: Capabilities = {
  pageNumbers: false,
  allCandidates: true,
  playsRecordings: true,
  relativeAddresses: true,
  hasLooks: true,
};
