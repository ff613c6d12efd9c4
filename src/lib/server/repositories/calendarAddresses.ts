import { calendarAddresses, type CalendarAddressRow } from '../db/tables';

export type { CalendarAddressRow };

export const addressesOf = (userId: string): Promise<CalendarAddressRow[]> =>
	calendarAddresses.all({ userId }, { order: [['madeAt', 'ASC']] });

/** Throws TakenError where the id is another's. */
export const addAddress = (row: CalendarAddressRow): Promise<void> => calendarAddresses.add(row);

export const removeAddress = (userId: string, id: string): Promise<number> =>
	calendarAddresses.remove({ id, userId });

export const addressByHash = (tokenHash: string): Promise<CalendarAddressRow | undefined> =>
	calendarAddresses.one({ tokenHash });

export const noteUse = (id: string, usedAt: Date): Promise<number> =>
	calendarAddresses.change({ id }, { usedAt });
