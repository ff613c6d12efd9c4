/** How a load goes up, by its weight. A first look: the rope, its ratings and local rules decide. */
export interface HoistClass {
	totalKg: number;
	heaviestKg: number;
	how: 'by hand' | 'by pulley' | 'by winch';
	people: number;
	tagLines: number;
	words: string;
}

const BY_HAND_KG = 15;
const BY_PULLEY_KG = 50;

/** @param pieces weights of what is lifted separately, kg, 0 or more each */
export function hoistClass(pieces: readonly number[]): HoistClass {
	const totalKg = pieces.reduce((sum, kg) => sum + kg, 0);
	const heaviestKg = Math.max(0, ...pieces);
	if (heaviestKg <= BY_HAND_KG) {
		return {
			totalKg,
			heaviestKg,
			how: 'by hand',
			people: 2,
			tagLines: 1,
			words: 'Two people, rope and one tag line; nobody beneath.'
		};
	}
	if (heaviestKg <= BY_PULLEY_KG) {
		return {
			totalKg,
			heaviestKg,
			how: 'by pulley',
			people: 3,
			tagLines: 1,
			words: 'Rated pulley and rope, three people, one tag line; nobody beneath.'
		};
	}
	return {
		totalKg,
		heaviestKg,
		how: 'by winch',
		people: 4,
		tagLines: 2,
		words: 'Winch with rated rope, four people, two tag lines at different points; nobody beneath.'
	};
}
