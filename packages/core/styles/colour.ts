/** Red, green and blue of `#rrggbb`, 0 to 255. */
const channels = (hex: string): [number, number, number] =>
  [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16)) as [number, number, number];
const hexOf = (rgb: readonly number[]): string =>
  `#${rgb.map((channel) => Math.round(channel).toString(16).padStart(2, '0')).join('')}`;

/** Relative luminance, 0 to 1 (WCAG 2.2, “relative luminance”). */
function luminance(hex: string): number {
  const [red, green, blue] = channels(hex).map((channel) => {
    const share = channel / 255;
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
}

/** Contrast of two colours, 1 to 21 (WCAG 2.2, “contrast ratio”). */
export function contrast(a: string, b: string): number {
  const [darker, lighter] = [luminance(a), luminance(b)].sort((one, other) => one - other) as [
    number,
    number,
  ];
  return (lighter + 0.05) / (darker + 0.05);
}

/** Between two colours: 0 is the first, 1 the second. */
const mixed = (a: string, b: string, share: number): string => {
  const to = channels(b);
  return hexOf(channels(a).map((channel, at) => channel + (to[at]! - channel) * share));
};

const night = '#171b26';
const daylight = '#fffdf8';
/** Text of this contrast can be read (WCAG 2.2, 1.4.3). */
const readable = 4.5;

/** At night less contrast is enough to say the same, and much of it dazzles (common practice). */
const share = 0.75;

/**
 * A colour of letters or rules as it is seen at night: as much lighter as it has to be to stand out
 * there as it does by day.
 */
export function atNight(hex: string): string {
  const aim = Math.max(readable, contrast(hex, daylight) * share);
  for (let lighter = 0; lighter < 1; lighter += 0.05) {
    const made = mixed(hex, daylight, lighter);
    if (contrast(made, night) >= aim) return made;
  }
  return daylight;
}
/** A background of the day as one of the night: a breath of its colour over the dark. */
export const groundAtNight = (hex: string): string => mixed(night, hex, 0.08);
