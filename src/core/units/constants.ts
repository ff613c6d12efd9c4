/** Speed of light in vacuum, m/s (SI definition). */
export const SPEED_OF_LIGHT_M_S = 299_792_458;

/** Mean Earth radius used for bulge and tilt, m (ITU-R P.310 usage of 6371 km). */
export const EARTH_RADIUS_M = 6_371_000;

/** Radians per degree: the only place where the factor is written. */
export const RAD_PER_DEG = Math.PI / 180;

/** Boltzmann's constant times 290 K per hertz, as dBm/Hz: 10·log10(1.380649e-23 · 290 · 1000). */
export const THERMAL_NOISE_DBM_HZ = -173.9752;
