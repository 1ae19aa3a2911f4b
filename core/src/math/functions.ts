/**
 * Elementary functions whose results are the same, bit for bit, on every JavaScript engine.
 *
 * `Math.sin`, `Math.atan2`, `Math.exp` … may differ between engines in the last bits; `+ - * / sqrt` may not. These are
 * built from the latter alone, with the polynomials of fdlibm 5.3 (Sun Microsystems, 1993: k_sin.c, k_cos.c, s_atan.c,
 * e_exp.c, e_log.c). Errors are below 1 ulp for sin, cos, atan2, exp and log on the domains given.
 */

export const PI = 3.141592653589793;
export const TAU = 6.283185307179586;
const HALF_PI = 1.5707963267948966;
export const LN2 = 0.6931471805599453;
export const DEGREE = 0.017453292519943295;

// π/2 in three parts whose products with small integers are exact (Cody and Waite 1980, as in e_rem_pio2.c).
const PIO2_1 = 1.57079632673412561417;
const PIO2_2 = 6.0771005063039047e-11;
const PIO2_2T = 2.02226624879595063154e-21;

// The high word of a double holds sign, exponent and the top of the fraction; its index depends on the byte order.
const double = new Float64Array([1]);
const words = new Uint32Array(double.buffer);
const HIGH = words[1] === 0x3ff00000 ? 1 : 0;

/** The high word of a double, as a whole number from 0. */
function highWord(x: number): number {
  double[0] = x;
  return words[HIGH] as number;
}

/** The double with this high word, and 0 below it. */
function fromHighWord(high: number): number {
  words[1 - HIGH] = 0;
  words[HIGH] = high;
  return double[0] as number;
}

/** A double with another high word. */
function withHighWord(x: number, high: number): number {
  double[0] = x;
  words[HIGH] = high;
  return double[0] as number;
}

/** sin on [−π/4, π/4], for the reduced argument `x + y`. */
function kernelSin(x: number, y: number): number {
  const z = x * x;
  const r =
    8.33333333332248946124e-3 +
    z * (-1.98412698298579493134e-4 + z * (2.75573137070700676789e-6 + z * (-2.50507602534068634195e-8 + z * 1.58969099521155010221e-10)));
  const v = z * x;
  return x - (z * (0.5 * y - v * r) - y - v * -1.66666666666666324348e-1);
}

/** cos on [−π/4, π/4], for the reduced argument `x + y`. */
function kernelCos(x: number, y: number): number {
  const z = x * x;
  const r =
    z *
    (4.16666666666666019037e-2 +
      z *
        (-1.38888888888741095749e-3 +
          z *
            (2.48015872894767294178e-5 +
              z * (-2.75573143513906633035e-7 + z * (2.0875723212981748279e-9 + z * -1.13596475577881948265e-11)))));
  const half = 0.5 * z;
  const w = 1 - half;
  return w + (1 - w - half + (z * r - x * y));
}

/** sin (quadrant 0) or cos (quadrant 1) of `angle`: the reduction shared by both. */
function circular(angle: number, quadrant: number): number {
  const n = Math.floor(angle / HALF_PI + 0.5);
  const r = angle - n * PIO2_1;
  const high = r - n * PIO2_2;
  const low = r - high - n * PIO2_2 - n * PIO2_2T;
  switch ((((n + quadrant) % 4) + 4) % 4) {
    case 0:
      return kernelSin(high, low);
    case 1:
      return kernelCos(high, low);
    case 2:
      return -kernelSin(high, low);
    default:
      return -kernelCos(high, low);
  }
}

/** Sine of an angle in radians; |angle| ≤ 1e5. */
export function sin(angle: number): number {
  return circular(angle, 0);
}

/** Cosine of an angle in radians; |angle| ≤ 1e5. */
export function cos(angle: number): number {
  return circular(angle, 1);
}

/** Arc tangent in (−π/2, π/2) (s_atan.c: four break points, one odd polynomial). */
function atan(value: number): number {
  let x = value < 0 ? -value : value;
  let high = 0;
  let low = 0;
  if (x >= 2.4375) {
    high = 1.570796326794896558;
    low = 6.12323399573676603587e-17;
    x = -1 / x;
  } else if (x >= 1.1875) {
    high = 9.82793723247329054082e-1;
    low = 1.39033110312309984516e-17;
    x = (x - 1.5) / (1 + 1.5 * x);
  } else if (x >= 0.6875) {
    high = 7.85398163397448278999e-1;
    low = 3.06161699786838301793e-17;
    x = (x - 1) / (x + 1);
  } else if (x >= 0.4375) {
    high = 4.63647609000806093515e-1;
    low = 2.26987774529616870924e-17;
    x = (2 * x - 1) / (2 + x);
  }
  const z = x * x;
  const w = z * z;
  const odd =
    z *
    (3.33333333333329318027e-1 +
      w *
        (1.42857142725034663711e-1 +
          w *
            (9.09088713343650656196e-2 +
              w * (6.66107313738753120669e-2 + w * (4.97687799461593236017e-2 + w * 1.62858201153657823623e-2)))));
  const even =
    w *
    (-1.99999999998764832476e-1 +
      w *
        (-1.1111110405462355788e-1 + w * (-7.69187620504482999495e-2 + w * (-5.83357013379057348645e-2 + w * -3.6531572744216915527e-2))));
  const result = high - (x * (odd + even) - low - x);
  return value < 0 ? -result : result;
}

/** Angle of the vector (x, y) in radians, in (−π, π]; 0 for the null vector. */
export function atan2(y: number, x: number): number {
  if (y === 0) return x < 0 ? PI : 0;
  if (x === 0) return y > 0 ? HALF_PI : -HALF_PI;
  const angle = atan((y < 0 ? -y : y) / (x < 0 ? -x : x));
  if (x > 0) return y > 0 ? angle : -angle;
  return y > 0 ? PI - angle : angle - PI;
}

/** `x · 2^k` for the results of `exp`, in two exact factors so that k may pass the exponent's range. */
function scale(x: number, k: number): number {
  const half = Math.trunc(k / 2);
  return x * fromHighWord((half + 1023) << 20) * fromHighWord((k - half + 1023) << 20);
}

/** e^x (e_exp.c). Infinity above 709.78, 0 below −745.1. */
export function exp(x: number): number {
  if (x > 709.782712893384) return Infinity;
  if (x < -745.1332191019411) return 0;
  const k = Math.floor(x * 1.442695040888963387 + 0.5);
  const high = x - k * 6.9314718036912381649e-1;
  const low = k * 1.90821492927058770002e-10;
  const r = high - low;
  const t = r * r;
  const c =
    r -
    t *
      (1.66666666666666019037e-1 +
        t *
          (-2.77777777770155933842e-3 + t * (6.61375632143793436117e-5 + t * (-1.6533902205465251539e-6 + t * 4.13813679705723846039e-8))));
  return scale(1 - (low - (r * c) / (2 - c) - high), k);
}

/** Natural logarithm (e_log.c). −Infinity at 0, NaN below. */
export function log(x: number): number {
  if (!(x > 0)) return x === 0 ? -Infinity : NaN;
  if (x === Infinity) return x;
  let k = 0;
  let value = x;
  if (highWord(x) < 0x00100000) {
    k = -54;
    value = x * 18014398509481984;
  }
  // x = 2^k (1 + f) with √2/2 < 1 + f < √2.
  const high = highWord(value);
  const fraction = high & 0x000fffff;
  const carry = (fraction + 0x95f64) & 0x100000;
  k += (high >>> 20) - 1023 + (carry >>> 20);
  const f = withHighWord(value, fraction | (carry ^ 0x3ff00000)) - 1;
  const s = f / (2 + f);
  const z = s * s;
  const w = z * z;
  const r =
    w * (3.999999999940941908e-1 + w * (2.222219843214978396e-1 + w * 1.531383769920937332e-1)) +
    z * (6.66666666666673513e-1 + w * (2.857142874366239149e-1 + w * (1.818357216161805012e-1 + w * 1.479819860511658591e-1)));
  const half = 0.5 * f * f;
  return k * 6.9314718036912381649e-1 - (half - (s * (half + r) + k * 1.90821492927058770002e-10) - f);
}

/** 2^x; the decay of anything with a half-life. */
export function exp2(x: number): number {
  return exp(x * LN2);
}

/** base^exponent for base ≥ 0, to a relative error of about |exponent · ln base| ulp. */
export function pow(base: number, exponent: number): number {
  if (exponent === 1 || base === 1) return base;
  if (base === 0) return exponent === 0 ? 1 : 0;
  return exp(exponent * log(base));
}

/** Length of the vector (x, y); exact rounding of the root, no scaling (components up to 1e150). */
export function length(x: number, y: number): number {
  return Math.sqrt(x * x + y * y);
}

/** `value` held in [low, high]. */
export function clamp(value: number, low: number, high: number): number {
  return value < low ? low : value > high ? high : value;
}

/** The same angle in (−π, π]. */
export function wrapAngle(angle: number): number {
  if (angle > -PI && angle <= PI) return angle;
  const turned = angle - TAU * Math.ceil((angle - PI) / TAU);
  return turned <= -PI ? PI : turned;
}
