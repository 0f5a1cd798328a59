import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { answerText, unitLabel, type Keyed, type QtyField, type Shape } from '@keen-mortar/core';
import { keyedAt } from '../../form/inputs';
import { drawnIn, fieldOf } from '../../drawn';
import { ComputationStore } from '../../computation.store';
import { SpecimenDrawing } from './specimen';
import { ThingDrawing } from './thing';

/** What is weighed or broken, with its readings on it, as the definition puts them together. */
@Component({
  selector: 'km-scene',
  imports: [SpecimenDrawing, ThingDrawing],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (on of scale(); track on.shows) {
      @if (on.sign) {
        <span class="sign fig" aria-hidden="true">{{ on.sign }}</span>
      }
      <div class="on" [class.apart]="!on.sign && !$first">
        <km-thing [thing]="on.thing" />
        <b class="fig" [attr.data-testid]="'scene-' + on.shows">{{ on.text || '–' }}</b>
        <span class="small soft fig">{{ on.symbol }}</span>
      </div>
    }
    @if (specimen(); as s) {
      <km-specimen [shape]="s.shape" [width]="s.width" [across]="s.across" [height]="s.height" [ratio]="s.ratio" />
    }
  `,
  styles: `
    :host {
      display: flex;
      align-items: flex-end;
      min-width: 0;
    }
    .on {
      flex: 1 1 0;
      min-width: 0;
      max-width: 118px;
      display: grid;
      justify-items: center;
    }
    .on.apart {
      margin-left: 14px;
    }
    km-thing {
      width: 100%;
    }
    b {
      font-weight: 600;
      font-size: 15px;
      white-space: nowrap;
    }
    .sign {
      flex: none;
      padding: 0 4px 62px;
      font-size: 19px;
    }
    km-specimen {
      flex: 1;
    }
  `,
})
export class SceneDrawing {
  private readonly store = inject(ComputationStore);

  protected readonly scale = computed(() => {
    const scene = this.store.method()?.scene;
    return scene && 'scale' in scene
      ? scene.scale.map((on) => ({ ...on, text: this.textOf(on.shows), symbol: this.symbolOf(on.shows) }))
      : [];
  });

  protected readonly specimen = computed(() => {
    const scene = this.store.method()?.scene;
    if (!scene || !('specimen' in scene)) return null;
    const [width, height] = [this.mmOf(scene.width), this.mmOf(scene.height)];
    return {
      shape: scene.specimen,
      width: this.textOf(scene.width),
      across: scene.across ? this.textOf(scene.across) : '',
      height: scene.height === scene.width ? '' : this.textOf(scene.height),
      ratio: width && height ? width / height : null,
    };
  });

  /** The quantity of a reading as keyed; of a table, its first row. */
  private keyedOf(id: string): { keyed: Keyed; field: QtyField } | null {
    const field = fieldOf(this.store.method(), id);
    const [path, of] =
      field?.kind === 'rows' ? Object.entries(field.of as Shape).map(([column, f]) => [`${id}.0.${column}`, f] as const)[0]! : [id, field];
    const keyed = of?.kind === 'qty' ? keyedAt(this.store.still(), path) : null;
    return keyed ? { keyed, field: of as QtyField } : null;
  }

  private textOf(id: string): string {
    const of = this.keyedOf(id);
    if (of) return of.keyed.text.trim() === '' ? '' : `${of.keyed.text} ${unitLabel(of.keyed.unit)}`;
    const [field, result] = [this.store.method()?.results[id], this.store.working()?.results.find((r) => r.id === id)];
    return field && result ? answerText(field, result) : '';
  }

  private symbolOf(id: string): string {
    const field = fieldOf(this.store.method(), id);
    return field?.kind === 'qty' ? field.symbol : (this.store.method()?.results[id]?.symbol ?? '');
  }

  /** mm, for the drawing’s own scale only. */
  private mmOf(id: string): number | null {
    const of = this.keyedOf(id);
    const mm = of ? drawnIn(of.keyed, of.field, 'mm') : NaN;
    return Number.isFinite(mm) ? mm : null;
  }
}
