import { pino } from 'pino';

export const log = pino({ level: process.env.SKIAXIS_LOG_LEVEL ?? 'info' });
