import { computed, inject, signal, type Signal } from '@angular/core';
import type { Equipment, Sheet } from '@keen-mortar/contract';
import { isWornOut, padsServe, type Keyed } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { newId } from '../../device/ids';
import { Pressed } from '../../device/pressed';
import { Write } from '../../device/write';
import { project, session } from '../../state/session';
import { kitTaken, withKit } from '../../test/sound-kit';
import type { BegunWith, InHandTest } from '../record/begun-with';
import { nextPads } from './breaks.view';

interface Of {
  readonly sheet: Signal<Sheet | null>;
  readonly inHand: Signal<InHandTest | null>;
  readonly begunWith: BegunWith;
}

/** The pair of pads that the specimen in hand is broken with, how long it serves, and another in its place. Made where things are injected. */
export class PadsInPress {
  private readonly store = inject(Store);
  private readonly project = this.store.selectSignal(project);
  private readonly person = this.store.selectSignal(session.selectPersonId);

  constructor(
    private readonly of: Of,
    private readonly refresh: (specimenId: string) => void,
  ) {}

  readonly now = computed(() => {
    const [s, t] = [this.of.sheet(), this.of.inHand()];
    const pair = s && t && !t.test ? kitTaken(s.kit, this.of.begunWith.takenOf(t)).find((k) => k.kind === 'pads') : undefined;
    if (!pair) return null;
    const [hardness, uses] = [pair.sources['pads.hardness'], pair.sources['pads.uses']] as (Keyed | undefined)[];
    const most = hardness ? padsServe(hardness.text) : null;
    return { pair, uses: Number(uses?.text ?? 0), most, worn: isWornOut(pair) };
  });
  /** The worn pair that somebody goes on with, told of it. */
  readonly kept = signal<string | null>(null);
  readonly changing = new Write<Equipment>();
  private readonly ids = new Pressed(() => newId());

  /** The worn pair is put away: another of the same hardness takes its place. */
  change(t: InHandTest): void {
    const [s, p, by, pads] = [this.of.sheet(), this.project(), this.person(), this.now()];
    if (!s || !p || by === null || !pads) return;
    const hardness = pads.pair.sources['pads.hardness'] as Keyed;
    const names = s.kit.filter((k) => k.kind === 'pads').map((k) => k.name);
    const said = {
      by,
      projectId: p.id,
      kind: 'pads',
      name: `${nextPads(names)}, hardness ${hardness.text}`,
      values: [{ item: 'pads.hardness', value: { text: hardness.text, unit: hardness.unit } }],
    };
    const id = this.ids.with(said);
    const body = { id, ...said };
    const { begunWith } = this.of;
    this.changing.send({ id, itemId: id, opens: '/breaks', kind: 'equipment', path: '/equipment', body }, (made) => {
      this.changing.busy.set(false);
      begunWith.takeKit(t, withKit(t.method, [...s.kit, made], begunWith.takenOf(t), 'pads', made.id));
      this.refresh(s.item.id);
    });
  }
}
