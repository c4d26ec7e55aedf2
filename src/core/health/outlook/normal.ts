/** The normal distribution, as far as a forecast needs it. */

/**
 * The share of a standard normal distribution below z. Error under 1e-7. Source: Abramowitz and Stegun 26.2.17.
 * @example Math.round(below(1.2816) * 1000) / 1000 // => 0.9
 */
export function below(z: number): number {
  if (z < 0) return 1 - below(-z);
  const t = 1 / (1 + 0.2316419 * z);
  const poly =
    t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  return 1 - Math.exp((-z * z) / 2) * poly * 0.3989422804014327;
}

/**
 * The z below which a share of a standard normal distribution lies. Error under 1e-8 within (1e-9, 1 − 1e-9). Source: Acklam's
 * rational approximation.
 * @example Math.round(quantile(0.9) * 1000) / 1000 // => 1.282
 * @example quantile(0.5) // => 0
 */
export function quantile(share: number): number {
  const p = Math.min(1 - 1e-9, Math.max(1e-9, share));
  if (p < LOW) return tail(Math.sqrt(-2 * Math.log(p)));
  if (p > 1 - LOW) return -tail(Math.sqrt(-2 * Math.log(1 - p)));
  const q = p - 0.5;
  const r = q * q;
  return (
    ((((((A[0] * r + A[1]) * r + A[2]) * r + A[3]) * r + A[4]) * r + A[5]) * q) /
    (((((B[0] * r + B[1]) * r + B[2]) * r + B[3]) * r + B[4]) * r + 1)
  );
}

const LOW = 0.02425;
const A = [
  -39.69683028665376, 220.9460984245205, -275.9285104469687, 138.357751867269, -30.66479806614716,
  2.506628277459239,
] as const;
const B = [
  -54.47609879822406, 161.5858368580409, -155.6989798598866, 66.80131188771972, -13.28068155288572,
] as const;
const C = [
  -0.007784894002430293, -0.3223964580411365, -2.400758277161838, -2.549732539343734, 4.374664141464968,
  2.938163982698783,
] as const;
const D = [0.007784695709041462, 0.3224671290700398, 2.445134137142996, 3.754408661907416] as const;

function tail(q: number): number {
  return (
    (((((C[0] * q + C[1]) * q + C[2]) * q + C[3]) * q + C[4]) * q + C[5]) /
    ((((D[0] * q + D[1]) * q + D[2]) * q + D[3]) * q + 1)
  );
}
