/** What an account may be. */
export const ROLES = ['planner', 'technician', 'acceptor', 'trainee', 'administrator'] as const;
export type Role = (typeof ROLES)[number];
