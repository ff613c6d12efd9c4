/** How far the connections of this process to the database are used. */
export { poolUse } from '../db/connection';
