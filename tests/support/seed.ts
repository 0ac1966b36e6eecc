import fc from 'fast-check';

/**
 * Property tests take the same samples in every run, so that a run can be repeated and a change is judged by itself; the variable
 * PROPERTY_SEED lets them take others.
 */
fc.configureGlobal({ seed: Number(process.env['PROPERTY_SEED'] ?? 20_261_128) });
