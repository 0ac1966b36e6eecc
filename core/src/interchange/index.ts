export * from './docbook/import-docbook.js';
export * from './import-result.js';
