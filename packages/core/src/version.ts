/** Stored with every result: which core computed it. Raised with any change that can move a digit or a word. */
export const CORE_VERSION = '0.1.0';
