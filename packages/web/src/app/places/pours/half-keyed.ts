/** What a half-keyed ticket is made of: the form as it was keyed. */
export interface HalfKeyed {
  readonly form: Readonly<Record<string, unknown>>;
  readonly batchedAt: string | null;
}

const key = (pourId: string): string => `km.ticket.${pourId}`;

/** A ticket that was keyed in part, for the pour that it belongs to: this device keeps it until it is on record. */
export function rememberedTicket(pourId: string): HalfKeyed | null {
  try {
    return JSON.parse(localStorage.getItem(key(pourId)) ?? 'null') as HalfKeyed | null;
  } catch {
    return null;
  }
}

export const rememberTicket = (pourId: string, half: HalfKeyed): void => localStorage.setItem(key(pourId), JSON.stringify(half));
export const forgetTicket = (pourId: string): void => localStorage.removeItem(key(pourId));
