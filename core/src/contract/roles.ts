/** What people may do: each role may do what the ones before it may. */
export const roles = ['reader', 'reviewer', 'writer', 'keeper'] as const;
export type Role = (typeof roles)[number];
