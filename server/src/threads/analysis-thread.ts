/**
 * All that is worked out about a library, in one module, so that a thread loads it once and what it keeps serves every
 * question.
 */
export { run as origin } from '../builds/origin-thread.js';
export { run as compare } from '../compare/compare-thread.js';
export { run as preview } from '../designs/preview-thread.js';
export { run as coverage } from '../publications/coverage-thread.js';
export { run as reference } from '../publications/reference-thread.js';
export { run as freshness } from '../reach/freshness-thread.js';
export { run as reach } from '../reach/reach-thread.js';
