import { DestroyRef, Directive, ElementRef, inject, Injector, output } from '@angular/core';

/**
 * Dragged along its line: tells where the pointer is, and stays where its time is. What drags it comes when a pointer
 * comes near; keys need none of it.
 */
@Directive({ selector: '[kmMovable]', host: { '(pointerenter)': 'ready()' } })
export class Movable {
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly injector = inject(Injector);
  private readonly gone = inject(DestroyRef);
  /** Share of its line from the left, 0 to 1. */
  readonly dragged = output<number>();
  private asked = false;

  protected ready(): void {
    if (this.asked) return;
    this.asked = true;
    void import('@angular/cdk/drag-drop').then(({ DragDrop }) => {
      if (this.gone.destroyed) return;
      const drag = this.injector.get(DragDrop).createDrag(this.element);
      drag.constrainPosition = (_pointer, _drag, box) => ({ x: box.x, y: box.y });
      drag.moved.subscribe(({ event }) => {
        const box = this.element.parentElement?.getBoundingClientRect();
        const at = 'touches' in event ? event.touches[0]?.clientX : event.clientX;
        if (box && at !== undefined) this.dragged.emit(Math.min(1, Math.max(0, (at - box.left) / box.width)));
      });
      this.gone.onDestroy(() => drag.dispose());
    });
  }
}
