/** Who acts. Until people sign in, whoever the request names; commands are told, and look nowhere else. */
export interface Actor {
  readonly personId: string;
}

/** One write: who, under which id of the client’s, and when by the database’s clock. */
export interface Act extends Actor {
  readonly writeId: string;
  readonly now: Date;
  /** Lines on which something was changed: they are judged again before the write ends. */
  readonly touched: Set<string>;
}
