/**
 * Elementary functions that give the same bits in every engine. The language leaves the last digits of Math.sin and
 * its like to the engine, and browsers and servers differ; sums, products, quotients and roots do not. The kernels are
 * those of fdlibm (Sun Microsystems, 1993), good to about one unit in the last place over the ranges used here.
 */

const PIO2_HI = 1.57079632673412561417; // The first 33 bits of π/2.
const PIO2_MID = 6.0771005063039659766e-11; // The next 33.
const PIO2_LO = 2.02226624879595063154e-21;
const TWO_PI = 6.283185307179586;
const HALF_PI = 1.5707963267948966;

function kernelSin(x: number, y: number): number {
  const z = x * x;
  const v = z * x;
  const r =
    8.33333333332248946124e-3 +
    z *
      (-1.98412698298579493134e-4 +
        z * (2.75573137070700676789e-6 + z * (-2.50507602534068634195e-8 + z * 1.58969099521155010221e-10)));
  return x - (z * (0.5 * y - v * r) - y - v * -1.66666666666666324348e-1);
}

function kernelCos(x: number, y: number): number {
  const z = x * x;
  const r =
    z *
    (4.16666666666666019037e-2 +
      z *
        (-1.38888888888741095749e-3 +
          z *
            (2.48015872894767294178e-5 +
              z *
                (-2.75573143513906633035e-7 +
                  z * (2.0875723212981748279e-9 + z * -1.13596475577881948265e-11)))));
  const h = 0.5 * z;
  const w = 1 - h;
  return w + (1 - w - h + (z * r - x * y));
}

/** The quarter turn that an angle lies in, and what is left of it, in two parts. */
let rest = 0;
let restLow = 0;
function reduce(angle: number): number {
  // The remainder is exact; beyond this the three parts of π/2 would lose digits.
  const x = Math.abs(angle) > 1e6 ? angle % TWO_PI : angle;
  const n = Math.round(x / HALF_PI);
  const high = x - n * PIO2_HI;
  const mid = n * PIO2_MID;
  const a = high - mid;
  const low = n * PIO2_LO - (high - a - mid);
  rest = a - low;
  restLow = a - rest - low;
  return ((n % 4) + 4) % 4;
}

/** Sine of radians. */
export function sin(x: number): number {
  if (!Number.isFinite(x)) return NaN;
  if (Math.abs(x) < 0.7853981633974483) return Math.abs(x) < 1e-9 ? x : kernelSin(x, 0);
  const q = reduce(x);
  const v = q & 1 ? kernelCos(rest, restLow) : kernelSin(rest, restLow);
  return q & 2 ? -v : v;
}

/** Cosine of radians. */
export function cos(x: number): number {
  if (!Number.isFinite(x)) return NaN;
  if (Math.abs(x) < 0.7853981633974483) return kernelCos(x, 0);
  const q = reduce(x);
  const v = q & 1 ? kernelSin(rest, restLow) : kernelCos(rest, restLow);
  return q === 1 || q === 2 ? -v : v;
}

/** Tangent of an angle in radians; the same bits everywhere. */
export const tan = (x: number): number => sin(x) / cos(x);

const AT = [
  3.33333333333329318027e-1, -1.99999999998764832476e-1, 1.42857142725034663711e-1, -1.1111110405462355788e-1,
  9.09088713343650656196e-2, -7.69187620504482999495e-2, 6.66107313738753120669e-2,
  -5.83357013379057348645e-2, 4.97687799461593236017e-2, -3.6531572744216915527e-2, 1.62858201153657823623e-2,
];
const AT_HI = [
  4.63647609000806093515e-1, 7.85398163397448278999e-1, 9.82793723247329054082e-1, 1.570796326794896558,
];
const AT_LO = [
  2.26987774529616870924e-17, 3.06161699786838301793e-17, 1.39033110312309984516e-17,
  6.12323399573676603587e-17,
];

function atan(value: number): number {
  const a = Math.abs(value);
  if (a > 1e300) return value > 0 ? HALF_PI : -HALF_PI;
  let id = -1;
  let x = a;
  if (a < 0.4375) {
    if (a < 1e-9) return value;
  } else if (a < 0.6875) [id, x] = [0, (2 * a - 1) / (2 + a)];
  else if (a < 1.1875) [id, x] = [1, (a - 1) / (a + 1)];
  else if (a < 2.4375) [id, x] = [2, (a - 1.5) / (1 + 1.5 * a)];
  else [id, x] = [3, -1 / a];
  const z = x * x;
  const w = z * z;
  const s1 = z * (AT[0] + w * (AT[2] + w * (AT[4] + w * (AT[6] + w * (AT[8] + w * AT[10])))));
  const s2 = w * (AT[1] + w * (AT[3] + w * (AT[5] + w * (AT[7] + w * AT[9]))));
  const v = id < 0 ? x - x * (s1 + s2) : AT_HI[id] - (x * (s1 + s2) - AT_LO[id] - x);
  return value < 0 ? -v : v;
}

/** The angle of (x, y), −π to π. */
export function atan2(y: number, x: number): number {
  if (Number.isNaN(x) || Number.isNaN(y)) return NaN;
  if (x === 0 && y === 0) return Object.is(x, -0) ? (Object.is(y, -0) ? -Math.PI : Math.PI) : y;
  if (Math.abs(x) >= Math.abs(y)) {
    const v = atan(y / x);
    return x > 0 ? v : y < 0 || Object.is(y, -0) ? v - Math.PI : v + Math.PI;
  }
  return (y > 0 ? HALF_PI : -HALF_PI) - atan(x / y);
}

/** Arc cosine of −1 to 1. */
export const acos = (x: number): number => atan2(Math.sqrt((1 - x) * (1 + x)), x);

const LN2_HI = 6.9314718036912381649e-1;
const LN2_LO = 1.90821492927058770002e-10;

/** 2 to a whole power, −1022 to 1023. */
function power2(n: number): number {
  let v = 1;
  let b = n < 0 ? 0.5 : 2;
  for (let k = Math.abs(n); k > 0; k = Math.floor(k / 2)) {
    if (k % 2 === 1) v *= b;
    b *= b;
  }
  return v;
}

/** e to the power of x. */
export function exp(x: number): number {
  if (x > 709) return Infinity;
  if (x < -708) return 0;
  const n = Math.round(x / 0.6931471805599453);
  const hi = x - n * LN2_HI;
  const lo = n * LN2_LO;
  const r = hi - lo;
  const t = r * r;
  const c =
    r -
    t *
      (1.66666666666666019037e-1 +
        t *
          (-2.77777777770155933842e-3 +
            t *
              (6.61375632143793436117e-5 + t * (-1.6533902205465251539e-6 + t * 4.13813679705723846039e-8))));
  const y = 1 - (lo - (r * c) / (2 - c) - hi);
  return y * power2(n);
}

/** Natural logarithm of x > 0. */
export function log(x: number): number {
  if (!(x > 0)) return x === 0 ? -Infinity : NaN;
  if (!Number.isFinite(x)) return x;
  // Into √½ … √2 by halving and doubling, which is exact.
  let k = 0;
  let m = x;
  while (m >= 4294967296) [m, k] = [m / 4294967296, k + 32];
  while (m < 2.3283064365386963e-10) [m, k] = [m * 4294967296, k - 32];
  while (m >= 1.4142135623730951) [m, k] = [m / 2, k + 1];
  while (m < 0.7071067811865476) [m, k] = [m * 2, k - 1];
  const f = m - 1;
  const s = f / (2 + f);
  const z = s * s;
  const w = z * z;
  const t1 = w * (3.999999999940941908e-1 + w * (2.222219843214978396e-1 + w * 1.531383769920937332e-1));
  const t2 =
    z *
    (6.66666666666673513e-1 +
      w * (2.857142874366239149e-1 + w * (1.818357216161805012e-1 + w * 1.479819860511658591e-1)));
  const h = 0.5 * f * f;
  return k * LN2_HI - (h - (s * (h + t1 + t2) + k * LN2_LO) - f);
}

/** log(1 + x), exact for small x (Kahan). */
function log1p(x: number): number {
  const u = 1 + x;
  return u === 1 ? x : (log(u) * x) / (u - 1);
}

/** e to the power of x, less 1, exact for small x (Kahan). */
export function expm1(x: number): number {
  const u = exp(x);
  if (u === 1) return x;
  return u - 1 === -1 ? -1 : ((u - 1) * x) / log(u);
}

/** Hyperbolic sine; the same bits everywhere. */
export function sinh(x: number): number {
  const a = Math.abs(x);
  const e = expm1(a);
  const v = a < 22 ? (e + e / (e + 1)) / 2 : exp(a) / 2;
  return x < 0 ? -v : v;
}

/** Hyperbolic cosine; the same bits everywhere. */
export function cosh(x: number): number {
  const e = exp(Math.abs(x));
  return (e + 1 / e) / 2;
}

/** Inverse hyperbolic sine; the same bits everywhere. */
export function asinh(x: number): number {
  const a = Math.abs(x);
  const v = a > 1e8 ? log(a) + 0.6931471805599453 : log1p(a + (a * a) / (1 + Math.sqrt(1 + a * a)));
  return x < 0 ? -v : v;
}

/** x to the power of p, for x ≥ 0. */
export const pow = (x: number, p: number): number => (x === 0 ? (p === 0 ? 1 : 0) : exp(p * log(x)));

/**
 * Length of (x, y, z): by the root alone wherever the squares neither vanish nor overflow, which is ten times as fast
 * as the language's own, whose last bits are left to the engine.
 */
export function hypot(x: number, y: number, z = 0): number {
  const square = x * x + y * y + z * z;
  if (square > 1e-280 && square < Infinity) return Math.sqrt(square);
  const most = Math.max(Math.abs(x), Math.abs(y), Math.abs(z));
  if (!(most > 0) || most === Infinity) return most;
  const [a, b, c] = [x / most, y / most, z / most];
  return most * Math.sqrt(a * a + b * b + c * c);
}
