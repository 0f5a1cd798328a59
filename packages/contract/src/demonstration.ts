/** Code of the invented project that the program comes with: there a newcomer may try things out. */
export const DEMONSTRATION = 'QM-FB';
