import type { Item } from '@keen-mortar/contract';

/** Who acts. Until people sign in, whoever the request names; commands are told, and look nowhere else. */
export interface Actor {
  readonly personId: string;
}

/** One write: who, under which id of the client’s, and when by the database’s clock. */
export interface Act extends Actor {
  readonly writeId: string;
  readonly now: Date;
  /**
   * Lines on which something was changed: they are judged again before the write ends. Of a line that was written on, what its
   * head lies in: that line is held by the write already.
   */
  readonly touched: Map<string, readonly Item[] | null>;
}
