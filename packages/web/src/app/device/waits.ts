/** In localStorage while something waits to be sent or is set aside: the frame looks at it before it loads the outbox. */
export const WAITS = 'km.waits';

/** Told on the document when the outbox begins. */
export const OUTBOX_BEGUN = 'km-outbox-begun';
