import QRCode from 'qrcode';
import type { End } from '#core/ends';
import { makeSiteSheet, type SiteSheet } from '#core/sheet/siteSheet';
import type { Actor } from '../auth/actor';
import { getHop } from './hops';
import { requireRevision } from './feed';

export interface PreparedSheet {
	sheet: SiteSheet;
	hopName: string;
	issuedAt: Date;
	siteNotes: string;
	/** Address of the sheet and its QR code as a data URL. */
	address: string;
	qr: string;
}

/** The site sheet of one end from the newest revision, with the code that opens it. */
export async function prepareSheet(
	actor: Actor,
	hopId: string,
	end: End,
	origin: string
): Promise<PreparedSheet> {
	const hop = await getHop(actor, hopId);
	const revision = await requireRevision(hopId);
	const address = `${origin}/hops/${hopId}/${end.toLowerCase()}/sheet`;
	return {
		sheet: makeSiteSheet(revision.input, revision.plan, end, revision.number),
		hopName: revision.input.hopName,
		issuedAt: revision.issuedAt,
		siteNotes: hop.sites[end].notes,
		address,
		qr: await QRCode.toDataURL(address, { margin: 1, width: 300, errorCorrectionLevel: 'M' })
	};
}
