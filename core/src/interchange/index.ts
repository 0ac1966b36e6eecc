export * from './docbook/import-docbook.js';
export type { StyleSheet } from './docbook/style-sheets.js';
export * from './import-result.js';
