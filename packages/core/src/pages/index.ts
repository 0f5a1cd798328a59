export { indexPage, methodPage } from './method-page.js';
export { findingsPage } from './findings-page.js';
