export { indexPage, methodPage } from './method-page.js';
