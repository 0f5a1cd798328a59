type Heard = {
  readonly [K in 'input' | 'paste' | 'keydown']: (box: HTMLInputElement, column: number, event: HTMLElementEventMap[K]) => void;
};

/** Listens to the cells of a row as one; `data-cell` of each is its row and column. */
export function heard(row: HTMLElement, on: Heard): void {
  const listen = <K extends keyof Heard>(kind: K): void =>
    row.addEventListener(kind, (event: HTMLElementEventMap[K]) => {
      const box = event.target;
      if (!(box instanceof HTMLInputElement)) return;
      const column = box.dataset['cell']?.split('.')[1];
      if (column !== undefined) on[kind](box, Number(column), event);
    });
  listen('input');
  listen('paste');
  listen('keydown');
}
