/** Minutes as somebody says them: `35 min`, `2 h 05`. */
export function lengthWords(minutes: number): string {
	const whole = Math.round(minutes);
	if (whole < 60) return `${whole} min`;
	const rest = whole % 60;
	const hours = Math.floor(whole / 60);
	return rest === 0 ? `${hours} h` : `${hours} h ${String(rest).padStart(2, '0')} min`;
}
