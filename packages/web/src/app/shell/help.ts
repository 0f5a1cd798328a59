import { ChangeDetectionStrategy, Component, computed, inject, input, model } from '@angular/core';
import { Store } from '@ngrx/store';
import { Drawer } from 'primeng/drawer';
import { session, SessionActions, THEMES, type Theme } from '../state/session';
import { Switch } from '../ui/switch';

interface Page {
  readonly at: RegExp;
  readonly title: string;
  readonly says: readonly string[];
  readonly keys: readonly (readonly [string, string])[];
}

const EVERYWHERE: Page['keys'] = [
  ['/', 'Scratch over what is on the screen; in Scratch, its finder'],
  ['Esc', 'closes what lies over the screen'],
  ['?', 'this help'],
];

const PAGES: readonly Page[] = [
  {
    at: /^\/decisions/,
    title: 'Decisions',
    says: [
      'Where a rule says that somebody decides, it waits here: whether a load stands, whether a strength counts, whether a source has moved.',
      'Choose what was decided: beside it stands what that changes, before it is put on record. Then say who decided, why, and by which paper.',
      'Nothing that was decided is changed. It is taken back with a reason, or a later word takes its place; both stay.',
    ],
    keys: [['Arrows', 'through the choices']],
  },
  {
    at: /^\/day\/hours/,
    title: 'Opening hours',
    says: [
      'When somebody is in the laboratory, from a day on, or for some days only. What is due is fitted into them; the newest that was said of a day counts.',
    ],
    keys: [],
  },
  {
    at: /^\/day/,
    title: 'The day',
    says: [
      'Everything that is due comes here by itself. What ends first is in the warm band; in each group what can be done now stands first.',
      'A solid line is the time that is left, a ring when it is to be done. Drag the ring, or move it by keys, then plan it and say who does it.',
      'Hatched: the laboratory is closed. What cannot be met stands at the side while it can still be helped.',
    ],
    keys: [
      ['Arrows', 'on a ring: a quarter of an hour; page keys a day'],
      ['Enter', 'opens the sheet of what is due'],
    ],
  },
  {
    at: /^\/record\/[^/]+\/mold/,
    title: 'Molding',
    says: [
      'Say how many for which age: where a break would fall on a closed day, it is said now, with another age or the hours to open.',
      'Then layer by layer, in the order of the molds. The codes are issued at once: print the labels, and put them on the molds, not on their lids.',
    ],
    keys: [],
  },
  {
    at: /^\/samples\//,
    title: 'A sample and its tests',
    says: [
      'The clocks at the top burn from what happened: portions, turning, batching. The one that ends first stands first.',
      'Tests stand in the order of the work. Press one: its readings are in the warm band, its answer below while you type.',
      'Keep a test when its readings are right. What was kept is corrected with a reason, never overwritten.',
      'What was told with one tap (a portion, molding, truck empty) can be undone for some seconds, or told as earlier.',
      'A void test is not a failing one: it is made again, on another portion of the same sample.',
    ],
    keys: [
      ['Enter', 'to the next empty reading, then to Keep'],
      ['Arrows', 'from shape to shape'],
    ],
  },
  {
    at: /^\/pours\/[^/]+\/loads\/new/,
    title: 'A ticket',
    says: [
      'Key the scaled weights, not the targets. What does not look like the mix is asked about before it is kept.',
      'Half a ticket stays on this device until it is kept.',
    ],
    keys: [['Enter', 'keeps the ticket']],
  },
  {
    at: /^\/pours\/[^/]+/,
    title: 'A pour',
    says: [
      'The warm band is what to do now. Below it each load has a line: batched, sampled, and how long it may stay in the truck.',
      'A wedge points to the side on which a result is out. A ring with a stroke is a void test; a flag is a remark.',
    ],
    keys: [],
  },
  {
    at: /^\/practice\/.+/,
    title: 'Own figures',
    says: [
      'Key the lab’s own figure over the one in print. What it changes of the worked example stands beside it at once.',
      'It holds from a moment on. What was tested before stays as it was; what is tested by it says so.',
    ],
    keys: [],
  },
  {
    at: /^\/practice/,
    title: 'How this lab tests',
    says: ['Every method with its variants: which one is usual here, and where the lab has figures of its own.'],
    keys: [],
  },
  {
    at: /^\/bring/,
    title: 'Bringing in a record',
    says: ['The file of another installation is looked at first, and leaves no trace. Then all of it is brought in, or nothing.'],
    keys: [],
  },
  {
    at: /^\/mixes\/import/,
    title: 'Bringing in a table',
    says: [
      'Look at it tells line by line what is wrong, and makes nothing. Bring it in makes all of it, or nothing.',
      'The file with all columns is an example: write over it.',
    ],
    keys: [],
  },
  {
    at: /^\/mixes\/specifications/,
    title: 'What must be met',
    says: [
      'Each limit with where it is written. Numbers as they are written: their last place decides how a result is compared.',
      'One that is replaced stays for what was judged by it; mixes and sources meet the new one from its moment on.',
      'Strength is asked at 28 days unless the limit names another age; by whose rules it is accepted may be said too.',
    ],
    keys: [],
  },
  {
    at: /^\/mixes\/[^/]+\/series/,
    title: 'Strength series',
    says: [
      'The tests of a mix that count, by casting day. Where the running sum bends the mix moved; beside it stands what changed then, the strongest evidence first.',
      'The school that the specification names decides, or that of what the project works to; the others stand beside it. What is still to break is foretold from its 7 days and the mix’s own pairs.',
    ],
    keys: [],
  },
  {
    at: /^\/mixes\/.+/,
    title: 'A mix',
    says: [
      'The cubic metre cut open: what it is made of, and whether it fills. A gravity says whether it was keyed or which test found it.',
      'Revise makes the next revision, from a moment on: what was batched before stays of the one before.',
    ],
    keys: [],
  },
  {
    at: /^\/mixes/,
    title: 'Mixes',
    says: ['What is poured, what it must meet, and where its aggregates come from. A lab begins here, by hand or from a CSV file.'],
    keys: [],
  },
  {
    at: /^\/sources/,
    title: 'A source',
    says: ['What was found of it, against what it must meet, as it was known at any day; and the mixes that stand on it.'],
    keys: [],
  },
  {
    at: /^\/(ledger\/reports|reports)/,
    title: 'Reports',
    says: ['A report is what stood on record when it was issued. Made again it takes the place of the one before, which never changes.'],
    keys: [],
  },
  {
    at: /^\/ledger/,
    title: 'Ledger',
    says: [
      'Every test. Chips count what they would find; a bar of the weeks takes its week. What is asked for stands in the address.',
      'A row opens into its thread: what was read, how it was worked out, what came of it, and what it said before.',
    ],
    keys: [
      ['Enter', 'opens the row'],
      ['Up and down', 'walk the tests'],
    ],
  },
  {
    at: /^\/kit\/.+/,
    title: 'Kit',
    says: [
      'Its calibrations, with what was read, and what was tested with it since the one that holds. Should it be wrong, these are in question.',
      'A calibration that is kept counts for what is tested from that day on; what was tested before stays as it was.',
      'Found wrong, it puts what was tested with it since then in question, and is out of use until it is calibrated.',
    ],
    keys: [],
  },
  {
    at: /^\/kit/,
    title: 'Kit',
    says: ['What is tested with, on shelves in the order of the work; the line says how long its calibration holds yet.'],
    keys: [],
  },
  {
    at: /^\/record\/.+/,
    title: 'A sheet',
    says: [
      'Left are its tests and what was made of it; above it what it lies in. What is chosen there is in hand on the right.',
      'Keep puts it on record. Change what was kept, and it asks why: the old reading stays.',
      'Tables take a paste from a spreadsheet, heads and units with it.',
    ],
    keys: [['Enter', 'to the next reading; in a table down the column']],
  },
  {
    at: /^\/bench/,
    title: 'Bench',
    says: [
      'Samples of aggregates that go through their steps over days. What can be done now is on top; the hollow rings say when the rest would best be done while somebody is here.',
      'Done says that a step was done, now or at the time that you key. What is weighed is keyed in its test.',
      'Went it too far, there is a way back: the step after it waits its time again.',
    ],
    keys: [],
  },
  {
    at: /^\/breaks/,
    title: 'Breaks',
    says: [
      'What waits for the machine, what ends first at the top. Scan a label, or key its code: a scanner that types is heard whatever has the focus. Else the next one is in hand already.',
      'What cannot be put right once it is crushed is said before: another age, diameters apart, worn pads. The load comes from the machine by itself, or is keyed.',
      'Beside it stand its companions, what the strength test must reach, and who must be told where it is low.',
    ],
    keys: [
      ['Enter', 'on to the next reading; after the last one keep, and on to the next specimen'],
      ['1 to 6', 'how a cylinder broke'],
    ],
  },
  {
    at: /^\/record/,
    title: 'Record',
    says: ['All that is tested, a kind at a time. What lies in something else is made on the sheet of that.'],
    keys: [],
  },
  {
    at: /^\/scratch\/plan/,
    title: 'Planning backwards',
    says: ['Wish for one moment: the others fall where the method and the opening hours leave room.'],
    keys: [['Arrows', 'move the wished moment by a quarter of an hour; Page up and down by a day']],
  },
  {
    at: /^\/scratch/,
    title: 'Scratch',
    says: [
      'Any computation, at once, without a record. Nothing is kept; a link holds the readings.',
      'Key what you have: the answer moves while you type, and says what is still missing.',
      'Tables take a paste from a spreadsheet, heads and units with it.',
    ],
    keys: [
      ['Enter', 'to the next reading; in a table down the column'],
      ['Ctrl Z', 'takes back the last change'],
    ],
  },
  {
    at: /./,
    title: 'Keen Mortar',
    says: ['Pours are where fresh concrete is tested. Scratch computes anything without a record.'],
    keys: [],
  },
];

/** Help for the place in use, and its keys. */
@Component({
  selector: 'km-help',
  imports: [Drawer, Switch],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-drawer ariaCloseLabel="Close" position="right" [header]="page().title" [(visible)]="open" [style]="{ width: 'min(460px, 100vw)' }">
      <ul class="says">
        @for (line of page().says; track line) {
          <li>{{ line }}</li>
        }
      </ul>
      <!-- On a phone the shelf has no room for it. -->
      <km-switch label="Theme" [options]="themes" [value]="theme()" (chosen)="wear($event)" />
      <h3>Keys</h3>
      <dl class="figures">
        @for (key of keys(); track key[0]) {
          <div>
            <dt>
              <kbd>{{ key[0] }}</kbd>
            </dt>
            <dd>{{ key[1] }}</dd>
          </div>
        }
      </dl>
      <p class="soft small">Supports the specification, the code and the engineer, and never replaces them.</p>
    </p-drawer>
  `,
  styles: `
    .says {
      display: grid;
      gap: 10px;
      margin-bottom: 18px;
    }
    km-switch {
      display: block;
      margin-bottom: 18px;
    }
    kbd {
      font: 600 13px var(--fig);
      border: 1px solid var(--rule);
      padding: 2px 7px;
    }
    p {
      margin-top: 18px;
    }
  `,
})
export class Help {
  readonly url = input.required<string>();
  readonly open = model(false);
  private readonly store = inject(Store);
  protected readonly theme = this.store.selectSignal(session.selectTheme);
  protected readonly themes = THEMES.map((id) => ({ id, label: id }));
  protected wear(theme: string): void {
    this.store.dispatch(SessionActions.themeChosen({ theme: theme as Theme }));
  }
  protected readonly page = computed(() => PAGES.find(({ at }) => at.test(this.url()))!);
  protected readonly keys = computed(() => [...this.page().keys, ...EVERYWHERE]);
}
