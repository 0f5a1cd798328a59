/** π to 40 digits: far beyond any reading, so that no tie is decided by it. */
export const PI = '3.141592653589793238462643383279502884197';
