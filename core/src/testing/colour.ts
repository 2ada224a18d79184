/** How colours are told apart. For tests of palettes. */

type Rgb = readonly [r: number, g: number, b: number];

/** `#rrggbb` → linear light, each 0 to 1 (IEC 61966-2-1). */
const linear = (hex: string): Rgb => {
  const channel = (at: number) => {
    const value = Number.parseInt(hex.slice(at, at + 2), 16) / 255;
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
  };
  return [channel(1), channel(3), channel(5)];
};

const luminance = ([r, g, b]: Rgb): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** Contrast of two colours, 1 to 21 (WCAG 2.2, "contrast ratio"). */
export const contrast = (one: string, other: string): number => {
  const [a, b] = [luminance(linear(one)), luminance(linear(other))];
  return (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);
};

type Matrix = readonly [Rgb, Rgb, Rgb];

/**
 * What eyes that lack one kind of cone see, in linear light: Machado, Oliveira and Fernandes (2009), "A
 * Physiologically-based Model for Simulation of Color Vision Deficiency", table 1, severity 1.
 */
export const SEEN_BY: Readonly<Record<'usual' | 'protan' | 'deutan' | 'tritan', Matrix>> = {
  usual: [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ],
  protan: [
    [0.152286, 1.052583, -0.204868],
    [0.114503, 0.786281, 0.099216],
    [-0.003882, -0.048116, 1.051998],
  ],
  deutan: [
    [0.367322, 0.860646, -0.227968],
    [0.280085, 0.672501, 0.047413],
    [-0.01182, 0.04294, 0.968881],
  ],
  tritan: [
    [1.255528, -0.076749, -0.178779],
    [-0.078411, 0.930809, 0.147602],
    [0.004733, 0.691367, 0.3039],
  ],
};

const seen = (colour: Rgb, by: Matrix): Rgb => {
  const [r, g, b] = by.map((row) =>
    Math.min(
      1,
      Math.max(
        0,
        row.reduce((sum, share, index) => sum + share * colour[index]!, 0),
      ),
    ),
  );
  return [r!, g!, b!];
};

/** Linear light → Oklab (Ottosson 2020), in which equal distances look about equally far. */
const oklab = ([r, g, b]: Rgb): Rgb => {
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
};

/** How far apart two colours look to some eyes: a hundredth of black to white is 1. A just noticeable one is about 2. */
export const distance = (one: string, other: string, eyes: keyof typeof SEEN_BY): number => {
  const [a, b] = [one, other].map((hex) => oklab(seen(linear(hex), SEEN_BY[eyes])));
  return 100 * Math.hypot(...a!.map((value, index) => value - b![index]!));
};
