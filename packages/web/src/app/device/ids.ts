/** A new id: those that are made later sort later, so that what is kept together lies together. */
export { v7 as newId } from 'uuid';
