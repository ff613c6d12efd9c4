/** A number as a hand types it: comma or point, hyphen or minus; undefined when it is none. */
export function typedNumber(text: string): number | undefined {
	const clean = text.trim().replace('−', '-').replace(',', '.');
	if (!/^[-+]?(\d+\.?\d*|\.\d+)$/.test(clean)) return undefined;
	const value = Number(clean);
	return Number.isFinite(value) ? value : undefined;
}
