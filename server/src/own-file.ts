/**
 * The address of a file of the program. Each program is compiled into one file, so that no module can say by its own place where
 * another lies.
 * @param path its place in the project, as “server/src/threads/entry.mjs”
 */
export const ownFile = (path: string): URL => new URL(path, import.meta.url.replace(/^(.*\/)server\/src\/.*$/, '$1'));
