/** Put in by the build: the beginning of a hash of the core’s own sources. */
declare const KEEN_MORTAR_CORE: string | undefined;

/** Stored with every result: which core computed it. Nobody has to remember to raise a number. */
export const CORE_VERSION: string = typeof KEEN_MORTAR_CORE === 'string' ? KEEN_MORTAR_CORE : 'from sources';
