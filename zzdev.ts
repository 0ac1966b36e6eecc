import { freshDatabase } from './tests/support/fresh-database.js';
import { spawnServer } from './tests/support/server-process.js';
const database = await freshDatabase();
await spawnServer(database.url, 4700);
console.log('ready');
