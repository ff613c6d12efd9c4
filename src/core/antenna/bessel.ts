/**
 * Bessel function of the first kind, order 0.
 * Rational and asymptotic forms, absolute error below 5e-8 for every real x.
 *
 * @param x any finite
 * Source: Abramowitz and Stegun, Handbook of Mathematical Functions (1964), 9.4.1 and 9.4.3.
 */
export function besselJ0(x: number): number {
	const ax = Math.abs(x);
	if (ax <= 3) {
		const t = (ax / 3) ** 2;
		return (
			1 +
			t *
				(-2.2499997 +
					t * (1.2656208 + t * (-0.3163866 + t * (0.0444479 + t * (-0.0039444 + t * 0.00021)))))
		);
	}
	const t = 3 / ax;
	const amplitude =
		0.79788456 +
		t *
			(-0.00000077 +
				t *
					(-0.0055274 + t * (-0.00009512 + t * (0.00137237 + t * (-0.00072805 + t * 0.00014476)))));
	const phase =
		ax -
		0.78539816 +
		t *
			(-0.04166397 +
				t *
					(-0.00003954 +
						t * (0.00262573 + t * (-0.00054125 + t * (-0.00029333 + t * 0.00013558)))));
	return (amplitude * Math.cos(phase)) / Math.sqrt(ax);
}

/**
 * Bessel function of the first kind, order 1; odd in x. Absolute error below 8e-8.
 *
 * @param x any finite
 * Source: Abramowitz and Stegun (1964), 9.4.4 and 9.4.6.
 */
export function besselJ1(x: number): number {
	const ax = Math.abs(x);
	if (ax <= 3) {
		const t = (ax / 3) ** 2;
		return (
			x *
			(0.5 +
				t *
					(-0.56249985 +
						t *
							(0.21093573 +
								t * (-0.03954289 + t * (0.00443319 + t * (-0.00031761 + t * 0.00001109))))))
		);
	}
	const t = 3 / ax;
	const amplitude =
		0.79788456 +
		t *
			(0.00000156 +
				t *
					(0.01659667 + t * (0.00017105 + t * (-0.00249511 + t * (0.00113653 - t * 0.00020033)))));
	const phase =
		ax -
		2.35619449 +
		t *
			(0.12499612 +
				t * (0.0000565 + t * (-0.00637879 + t * (0.00074348 + t * (0.00079824 - t * 0.00029166)))));
	return (Math.sign(x) * amplitude * Math.cos(phase)) / Math.sqrt(ax);
}

/**
 * Bessel function of the first kind, order 2; even in x.
 * By the recurrence J2 = 2·J1/x − J0, and by its power series below 0.5 where the recurrence
 * would subtract nearly equal numbers.
 *
 * @param x any finite
 */
export function besselJ2(x: number): number {
	const ax = Math.abs(x);
	if (ax < 0.5) {
		const q = (ax * ax) / 4;
		return (q / 2) * (1 - q / 3 + (q * q) / 24 - q ** 3 / 360);
	}
	return (2 * besselJ1(ax)) / ax - besselJ0(ax);
}
