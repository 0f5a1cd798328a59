/**
 * The pictograms of the things themselves: one grid of 32, one weight of line, only the material filled (`--t`).
 * Set into the page once; each drawing is then one `<use>`.
 */
const SYMBOLS = `
<symbol id="p-cone" viewBox="0 0 32 32"><path d="M3 27.5H29"/><path d="M6.5 27.5C8 20 11 15.5 16 15.5S24 20 25.5 27.5Z" fill="var(--t)"/><path d="M9 21 13 5.5H19L23 21" stroke-dasharray="2.2 2.2"/></symbol>
<symbol id="p-bowl" viewBox="0 0 32 32"><path d="M6.5 11V25.5a2 2 0 0 0 2 2H23.5a2 2 0 0 0 2-2V11Z" fill="var(--t)"/><path d="M4 11H28M8 6.5H27M24 6.5V3.5"/></symbol>
<symbol id="p-meter" viewBox="0 0 32 32"><path d="M7 18V27.5H25V18Z" fill="var(--t)"/><path d="M4.5 18H27.5M7.5 18C8 13 11 11.5 16 11.5S24 13 24.5 18"/><circle cx="16" cy="6.8" r="4.3" fill="var(--well)"/><path d="M16 6.8 18.2 4.9M25 15.5H28.5"/></symbol>
<symbol id="p-thermo" viewBox="0 0 32 32"><path d="M13 6a3 3 0 0 1 6 0V18.5a5.6 5.6 0 1 1-6 0Z" fill="var(--well)"/><circle cx="16" cy="23" r="2.6" fill="currentColor"/><path d="M16 23V10M22.5 8H25.5M22.5 12H25.5M22.5 16H25.5"/></symbol>
<symbol id="p-cyl" viewBox="0 0 32 32"><path d="M8 7V25c0 1.9 3.6 3.4 8 3.4s8-1.5 8-3.4V7" fill="var(--t)"/><ellipse cx="16" cy="7" rx="8" ry="3.3" fill="var(--well)"/></symbol>
<symbol id="p-crush" viewBox="0 0 32 32"><path d="M10 9V23c0 1.3 2.7 2.2 6 2.2s6-.9 6-2.2V9Z" fill="var(--t)"/><path d="M6 8.5H26M6 26.5H26M16 1.5V6M13.8 4 16 6.2 18.2 4M15 11 18 15 14.5 18 17 23"/></symbol>
<symbol id="p-split" viewBox="0 0 32 32"><circle cx="16" cy="17" r="8.5" fill="var(--t)"/><path d="M10 6.5H22M10 27.5H22M16 8.5V25.5"/><path d="M16 1V4.5"/></symbol>
<symbol id="p-beam" viewBox="0 0 32 32"><rect x="3" y="13" width="26" height="7" fill="var(--t)"/><path d="M7 27 9 21 11 27ZM21 27 23 21 25 27ZM12.5 5V11M10.8 9 12.5 11 14.2 9M19.5 5V11M17.8 9 19.5 11 21.2 9"/></symbol>
<symbol id="p-sieve" viewBox="0 0 32 32"><path d="M6 4.5H26V11H6ZM7 13H25V19.5H7ZM8 21.5H24V28H8Z" fill="var(--t)"/><path d="M6 11H26" stroke-dasharray="2.5 1.5"/><path d="M7 19.5H25" stroke-dasharray="1.5 1.2"/></symbol>
<symbol id="p-flask" viewBox="0 0 32 32"><path d="M13.5 3.5V12C9 13.8 6 17 6 21.3 6 26 9.5 28.5 16 28.5S26 26 26 21.3C26 17 23 13.8 18.5 12V3.5Z" fill="var(--well)"/><path d="M7 24.5C7.8 27.3 11 28.5 16 28.5S24.2 27.3 25 24.5Z" fill="var(--t)"/><path d="M12 3.5H20M13.5 8H18.5"/></symbol>
<symbol id="p-basket" viewBox="0 0 32 32"><path d="M4 11V27.5H28V11" fill="none"/><path d="M4 15H28" stroke-dasharray="3 2"/><path d="M10 18.5H22L20.5 24.5H11.5Z" fill="var(--t)"/><path d="M10 18.5 16 8 22 18.5M16 8V3"/></symbol>
<symbol id="p-wash" viewBox="0 0 32 32"><path d="M5 14H27L24.5 22H7.5Z" fill="var(--t)"/><path d="M12 4C12 4 9.5 7 9.5 8.7a2.5 2.5 0 0 0 5 0C14.5 7 12 4 12 4ZM20 4c0 0-2.5 3-2.5 4.7a2.5 2.5 0 0 0 5 0C22.5 7 20 4 20 4Z" fill="var(--well)"/><path d="M10 25.5V28M16 25.5V28M22 25.5V28"/></symbol>
<symbol id="p-oven" viewBox="0 0 32 32"><rect x="4.5" y="4.5" width="23" height="23" fill="var(--well)"/><path d="M8 20H24V23H8Z" fill="var(--t)"/><path d="M10.5 16.5c-1.5-2 1.5-3 0-5M16 16.5c-1.5-2 1.5-3 0-5M21.5 16.5c-1.5-2 1.5-3 0-5M8 8H24"/></symbol>
<symbol id="p-soak" viewBox="0 0 32 32"><path d="M4.5 12H27.5L25 26.5H7Z" fill="var(--well)"/><path d="M6 20C9 18 12.5 18 16 20s7 2 10 0L25 26.5H7Z" fill="var(--t)"/><path d="M5.2 16c2.2-1.3 4.4-1.3 6.6 0s4.4 1.3 6.6 0 5.4-1.2 8 0"/></symbol>
<symbol id="p-rodbulk" viewBox="0 0 32 32"><path d="M7 10V27.5H25V10Z" fill="var(--t)"/><path d="M5 10H27M16 3V19"/><circle cx="12" cy="23" r="1.6"/><circle cx="20.5" cy="16" r="1.6"/><circle cx="20" cy="23.5" r="1.6"/></symbol>
<symbol id="p-ssd" viewBox="0 0 32 32"><path d="M3 27.5H29"/><path d="M9 27.5 12.5 11.5C13.5 10 17 10.5 18.5 13L24 27.5Z" fill="var(--t)"/><path d="M9 27.5 12.5 8.5H19.5L23 27.5" stroke-dasharray="2.2 2.2"/></symbol>
<symbol id="p-mix" viewBox="0 0 32 32"><path d="M5 7H15V14H5Z" fill="var(--t)"/><path d="M17 10H27V14H17Z"/><path d="M4 17.5H28M7 17.5 10 27.5H22L25 17.5M16 17.5V23"/></symbol>
<symbol id="p-truck" viewBox="0 0 32 32"><path d="M4 19C4 12 8 8 13.5 8 17 8 19.5 12 20 19Z" fill="var(--t)"/><path d="M2 19H21V12H26.5L30 17V22.5H2ZM8 18.5 13 8.5M13.5 18.5 18 11"/><circle cx="8.5" cy="24.5" r="3" fill="var(--well)"/><circle cx="24" cy="24.5" r="3" fill="var(--well)"/></symbol>
<symbol id="p-drop" viewBox="0 0 32 32"><path d="M16 3.5C16 3.5 7.5 14 7.5 20a8.5 8.5 0 0 0 17 0C24.5 14 16 3.5 16 3.5Z" fill="var(--t)"/><path d="M12 20.5a4 4 0 0 0 4 4"/></symbol>
<symbol id="p-hammer" viewBox="0 0 32 32"><path d="M3 24H29V29H3Z" fill="var(--t)"/><path d="M12.5 4H19.5V15H12.5ZM14.5 15H17.5V23.5H14.5Z" fill="var(--well)"/><path d="M16 7V11.5"/></symbol>
<symbol id="p-cell" viewBox="0 0 32 32"><path d="M3 20H29V28H3Z" fill="var(--t)"/><path d="M5 24.5H27" stroke-width="2.6"/><path d="M16 6H20V18.5H16ZM18 6V3H8V24" fill="none"/></symbol>
<symbol id="p-prism" viewBox="0 0 32 32"><rect x="7" y="11" width="18" height="9" fill="var(--t)"/><path d="M3 15.5H7M25 15.5H29M3 12V19M29 12V19M3 25.5H29M3 23.5V27.5M29 23.5V27.5"/></symbol>
<symbol id="p-perm" viewBox="0 0 32 32"><path d="M8 12H24V24H8Z" fill="var(--t)"/><path d="M8 3V12M24 3V12M8 6.5H24M16 24V29M13.5 26.8 16 29.3 18.5 26.8"/></symbol>
<symbol id="p-hopper" viewBox="0 0 32 32"><path d="M7 2.5H25L20 10H12ZM9 12H23L19.5 18H12.5Z" fill="var(--well)"/><path d="M10.5 20.5V29H21.5V20.5Z" fill="var(--t)"/></symbol>
<symbol id="p-series" viewBox="0 0 32 32"><path d="M4 4V28H28"/><path d="M7 20 12 14 16.5 17.5 21 9 27 12"/><path d="M4 22.5H28" stroke-dasharray="2.2 2.2"/></symbol>
<symbol id="p-sheet" viewBox="0 0 32 32"><path d="M7 3.5H19.5L25 9V28.5H7Z" fill="var(--well)"/><path d="M19.5 3.5V9H25M11 14H21M11 18.5H21M11 23H17"/></symbol>
<symbol id="p-scale" viewBox="0 0 32 32"><path d="M4 27.5H28V21H4Z" fill="var(--t)"/><path d="M6 10.5H26M16 10.5V21M19 24.3H25"/></symbol>
<symbol id="p-pick" viewBox="0 0 32 32"><path d="M5 5H12V12H5ZM20 5H27V12H20ZM5 20H12V27H5Z" fill="var(--well)"/><path d="M20 20H27V27H20Z" fill="var(--t)"/><path d="M21.5 23.5 23.3 25.5 26 21.5"/></symbol>
<symbol id="p-heap" viewBox="0 0 32 32"><path d="M2 27H30"/><path d="M4 27C8 20 12 9 16 9S24 20 28 27Z" fill="var(--t)"/><circle cx="14" cy="20" r=".6"/><circle cx="18.5" cy="16.5" r=".6"/><circle cx="20" cy="23" r=".6"/><circle cx="11" cy="24" r=".6"/></symbol>
<symbol id="p-clock" viewBox="0 0 32 32"><circle cx="16" cy="16" r="11.5" fill="var(--well)"/><path d="M16 9V16L21 19"/></symbol>
<symbol id="p-day" viewBox="0 0 32 32"><path d="M3 16H29M8 16V11M16 16V8M24 16V11"/><circle cx="16" cy="16" r="3" fill="currentColor"/></symbol>
<symbol id="p-room" viewBox="0 0 32 32"><path d="M5 27V8L16 3.5 27 8V27Z" fill="var(--well)"/><path d="M10 27V14H22V27"/></symbol>
<symbol id="p-ledger" viewBox="0 0 32 32"><path d="M4 6C8 4 12 4 16 6.5 20 4 24 4 28 6V26C24 24 20 24 16 26.5 12 24 8 24 4 26Z" fill="var(--well)"/><path d="M16 6.5V26.5M7.5 11H12.5M7.5 15.5H12.5M19.5 11H24.5M19.5 15.5H24.5"/></symbol>
<symbol id="p-kit" viewBox="0 0 32 32"><path d="M4 11H28V27H4Z" fill="var(--well)"/><path d="M11 11V6H21V11M4 17.5H28M14 15.5H18V19.5H14Z"/></symbol>
<symbol id="p-trainee" viewBox="0 0 32 32"><path d="M16 4 29 10 16 16 3 10Z" fill="var(--well)"/><path d="M8 12.8V20C12 23.5 20 23.5 24 20V12.8M29 10V19"/></symbol>
<symbol id="p-bridge" viewBox="0 0 32 32"><path d="M2 12H30M2 16H30M7 16V27M16 16V27M25 16V27"/><path d="M2 27C5 25.5 8 25.5 11 27s6 1.5 9 0 6-1.5 10 0"/></symbol>
<symbol id="p-camera" viewBox="0 0 32 32"><path d="M4 10H10L12 6.5H20L22 10H28V26H4Z" fill="var(--well)"/><circle cx="16" cy="17.5" r="5"/></symbol>
<symbol id="p-frac" viewBox="0 0 32 32"><path d="M4 16H18"/><circle cx="11" cy="9" r="3" fill="var(--t)"/><path d="M8 22H14V28H8ZM22 13.5H29M22 18.5H29" fill="var(--t)"/></symbol>
<symbol id="p-lock" viewBox="0 0 32 32"><path d="M7 14H25V28H7Z" fill="var(--t)"/><path d="M11 14V9.5a5 5 0 0 1 10 0V14"/></symbol>
<symbol id="p-mold" viewBox="0 0 32 32"><path d="M11.5 5H20.5L25.5 26.5H6.5Z" fill="var(--t)"/><path d="M9.5 13.5H6M22.5 13.5H26M3 27.5H29"/></symbol>
<symbol id="p-more" viewBox="0 0 32 32"><path d="M5 9H27M5 16H27M5 23H27"/></symbol>
<symbol id="p-pencil" viewBox="0 0 32 32"><path d="M5.5 26.5 7 20.5 21.5 6 26 10.5 11.5 25Z" fill="var(--well)"/><path d="M18.5 9 23 13.5M17 27.5H28"/></symbol>
<symbol id="p-tray" viewBox="0 0 32 32"><path d="M4 18H10.5L12.5 22H19.5L21.5 18H28V27.5H4Z" fill="var(--well)"/><path d="M16 4V14M12 10.5 16 14.5 20 10.5"/></symbol>
<symbol id="p-trowel" viewBox="0 0 32 32"><path d="M4 19.5 18.5 5 27 13.5 11.5 27Z" fill="var(--t)"/><path d="M22.5 9 27.5 4M3 28.5H12"/></symbol>
<symbol id="p-gauge" viewBox="0 0 32 32"><circle cx="16" cy="16" r="12" fill="var(--well)"/><path d="M16 16 21 9M8.5 20.5 10.5 19.5M8 12.5 10.3 13.4M16 4V7M23.5 20.5 21.5 19.5"/><circle cx="16" cy="16" r="1.5" fill="currentColor"/></symbol>
<symbol id="p-sunrise" viewBox="0 0 32 32"><path d="M7 22.5a9 9 0 0 1 18 0" fill="var(--t)"/><path d="M3 22.5H29"/><path d="M16 5V9M6.5 9.5 9 12M25.5 9.5 23 12M9.5 27H22.5"/></symbol>
<symbol id="p-ghost" viewBox="0 0 32 32"><path d="M12 8H20L24 22H8Z" fill="var(--t)" stroke-dasharray="2.2 2.2"/><path d="M4 27C11 24 21 24 28 27M16 3V5"/></symbol>
<symbol id="p-press" viewBox="0 0 32 32"><path d="M6 28.5V3.5H26V28.5"/><path d="M4 28.5H28M11 7.5H21V10.5H11ZM10 25H22V28.5H10Z" fill="var(--well)"/><path d="M12 10.5H20V25H12Z" fill="var(--t)"/></symbol>
<symbol id="p-pads" viewBox="0 0 32 32"><path d="M5 12.5H27V16.5H5Z" fill="var(--t)"/><path d="M5 20.5H27V24.5H5Z" fill="var(--t)"/><path d="M10 7.5H22M8.5 28.5H23.5"/></symbol>
<symbol id="p-caliper" viewBox="0 0 32 32"><path d="M3 6H29V10H3ZM5 10V25L9 21V10M18 10V21L22 25V10" fill="var(--well)"/><path d="M12 6V8M15 6V8M25 6V8"/></symbol>
<symbol id="p-sample" viewBox="0 0 32 32"><path d="M4 15H28L24.5 27.5H7.5Z" fill="var(--well)"/><path d="M4.5 15C8 10 12 8 16 8S24 10 27.5 15Z" fill="var(--t)"/><path d="M21 10 27 3.5"/></symbol>
<symbol id="p-set" viewBox="0 0 32 32"><path d="M3 12V24c0 1 1.8 1.8 4 1.8s4-.8 4-1.8V12M12 12V24c0 1 1.8 1.8 4 1.8s4-.8 4-1.8V12M21 12V24c0 1 1.8 1.8 4 1.8s4-.8 4-1.8V12" fill="var(--t)"/><ellipse cx="7" cy="12" rx="4" ry="1.8" fill="var(--well)"/><ellipse cx="16" cy="12" rx="4" ry="1.8" fill="var(--well)"/><ellipse cx="25" cy="12" rx="4" ry="1.8" fill="var(--well)"/></symbol>
<symbol id="p-demold" viewBox="0 0 32 32"><path d="M11 11V26c0 1.3 2.2 2.3 5 2.3s5-1 5-2.3V11" fill="var(--t)"/><ellipse cx="16" cy="11" rx="5" ry="2.1" fill="var(--well)"/><path d="M7.5 14V28.5M24.5 14V28.5M16 8V2.5M13.5 4.8 16 2.3 18.5 4.8"/></symbol>
<symbol id="p-tank" viewBox="0 0 32 32"><path d="M3 11H29V27.5H3Z" fill="var(--well)"/><path d="M3 16.5C6 15 9.5 15 12.5 16.5S19 18 22 16.5 26.5 15.5 29 16.5V27.5H3Z" fill="var(--t)"/><path d="M8 20H12V27.5M20 20H24V27.5"/></symbol>
<symbol id="p-person" viewBox="0 0 32 32"><circle cx="16" cy="11" r="5.5" fill="var(--t)"/><path d="M5 28.5C5.5 21.5 10 19 16 19S26.5 21.5 27 28.5Z" fill="var(--well)"/><path d="M9.5 10.5C9.5 5.5 12 3.5 16 3.5S22.5 5.5 22.5 10.5M8 10.5H24"/></symbol>
<symbol id="p-again" viewBox="0 0 32 32"><path d="M9 9H20a7 7 0 0 1 0 14H8M9 9 13.5 4.5M9 9 13.5 13.5"/></symbol>
<symbol id="p-label" viewBox="0 0 32 32"><path d="M4 9H21L28 16 21 23H4Z" fill="var(--well)"/><circle cx="21" cy="16" r="1.5" fill="currentColor"/><path d="M8 13.5H16M8 18.5H14"/></symbol>
<symbol id="p-mail" viewBox="0 0 32 32"><path d="M4 8H28V25H4Z" fill="var(--well)"/><path d="M4 8 16 18 28 8"/></symbol>
<symbol id="p-table" viewBox="0 0 32 32"><path d="M4 5.5H28V26.5H4Z" fill="var(--well)"/><path d="M4 5.5H28V11.5H4Z" fill="var(--t)"/><path d="M4 16.5H28M4 21.5H28M12 5.5V26.5M20 5.5V26.5"/></symbol>
<symbol id="p-spec" viewBox="0 0 32 32"><path d="M6 3.5H20L26 9.5V28.5H6Z" fill="var(--well)"/><path d="M20 3.5V9.5H26M10 14H22M10 23H22M13 20.5V25.5M20 20.5V25.5"/><path d="M13 21.5H20V24.5H13Z" fill="var(--t)"/></symbol>
<symbol id="p-comparator" viewBox="0 0 32 32"><path d="M6 28.5H26M9 28.5V3.5H23V8"/><circle cx="23" cy="10" r="4" fill="var(--well)"/><path d="M23 10 24.5 8M14 12H18V28.5H14Z" fill="var(--t)"/><path d="M16 12V7M13.5 7H23"/></symbol>
<symbol id="p-rod" viewBox="0 0 32 32"><path d="M15 3H17V27.5a1 1 0 0 1-2 0Z" fill="var(--well)"/><path d="M10 3.5H22"/></symbol>
<symbol id="p-sign" viewBox="0 0 32 32"><path d="M4 25.5H28M6 21C9 12 12 8 13.5 10S9.5 21 12 21 17 14 18.5 14 17.5 20.5 20 20.5 23 18 26 17"/></symbol>
<symbol id="p-off" viewBox="0 0 32 32"><circle cx="16" cy="16" r="11.5" fill="var(--well)"/><path d="M8 24 24 8"/></symbol>
<symbol id="p-go" viewBox="0 0 32 32"><path d="M6 16H26M19 9 26 16 19 23"/></symbol>
<symbol id="p-flag" viewBox="0 0 32 32"><path d="M9 28.5V4.5H24L20.5 9.5 24 14.5H9" fill="var(--well)"/></symbol>
<symbol id="p-warn" viewBox="0 0 32 32"><path d="M16 4.5 29 27H3Z" fill="var(--well)"/><path d="M16 12.5V19.5"/><circle cx="16" cy="23.3" r="1" fill="currentColor"/></symbol>
<symbol id="p-f1" viewBox="0 0 32 32"><path d="M9 3.5H23V28.5H9Z" fill="var(--t)"/><path d="M9 3.5 16 14.5 23 3.5M9 28.5 16 17.5 23 28.5M16 14.5 14.8 16 16 17.5M11 11V21M21 11V21"/></symbol>
<symbol id="p-f2" viewBox="0 0 32 32"><path d="M9 3.5H23V28.5H9Z" fill="var(--t)"/><path d="M9 28.5 16 17.5 23 28.5M16 17.5 15 3.5M12.5 22V6M20 23 20.5 8"/></symbol>
<symbol id="p-f3" viewBox="0 0 32 32"><path d="M9 3.5H23V28.5H9Z" fill="var(--t)"/><path d="M12.5 3.5 13 28.5M16 3.5 15.5 15 16.5 28.5M20 3.5 19.5 28.5"/></symbol>
<symbol id="p-f4" viewBox="0 0 32 32"><path d="M9 3.5H23V28.5H9Z" fill="var(--t)"/><path d="M22 6 17 14 15.5 18.5 10 26.5"/></symbol>
<symbol id="p-f5" viewBox="0 0 32 32"><path d="M9 3.5H23V20C20.5 22 20 25 20 28.5H12.5C12.5 24 11.5 21.5 9 20Z" fill="var(--t)"/><path d="M9 20V28.5H10M23 20V28.5H22M14 24V14"/></symbol>
<symbol id="p-f6" viewBox="0 0 32 32"><path d="M9 3.5H23V17C20 20 17.5 24 16.5 28.5H15.5C14.5 24 12 20 9 17Z" fill="var(--t)"/><path d="M9 17V27M23 17V27M15 22 14 12"/></symbol>
`;

/** Sets the symbols into the page, where they are not there yet. */
export function setPictograms(page: Document): void {
  if (page.getElementById('pictograms')) return;
  const holder = page.createElement('div');
  holder.id = 'pictograms';
  holder.hidden = true;
  holder.setAttribute('aria-hidden', 'true');
  holder.innerHTML = `<svg xmlns="http://www.w3.org/2000/svg">${SYMBOLS}</svg>`;
  page.body.prepend(holder);
}
