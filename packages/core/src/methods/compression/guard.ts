/** Said wherever a specimen is broken. */
export const GUARD = {
  text: 'Guard closed: fragments fly, and high-strength specimens fail explosively. Eye protection.',
  caution: true,
} as const;
