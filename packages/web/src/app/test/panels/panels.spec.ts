import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { By } from '@angular/platform-browser';
import { METHODS, methodById } from '@keen-mortar/core';
import { provideStore } from '@ngrx/store';
import { Chart } from 'chart.js';
import { session } from '../../state/session';
import { ComputationStore } from '../computation.store';
import { choose } from '../../testing/kit';
import { PANELS } from './index';

interface Drawn {
  readonly data: readonly { x: number; y: number }[];
}

describe('panels', () => {
  let store: InstanceType<typeof ComputationStore>;
  let fixture: ComponentFixture<unknown>;
  let host: HTMLElement;

  beforeEach(() => {
    localStorage.setItem('km.scratch.system', 'si');
    TestBed.configureTestingModule({
      providers: [provideZonelessChangeDetection(), provideStore({ [session.name]: session.reducer }), ComputationStore],
    });
    store = TestBed.inject(ComputationStore);
  });

  const rest = async (): Promise<void> => {
    store.settle();
    await fixture.whenStable();
    // Pictures are drawn in a task of their own.
    await new Promise((resolve) => setTimeout(resolve, 10));
  };
  async function show(method: string, example = true): Promise<void> {
    const m = methodById(method)!;
    store.open(m);
    if (example) store.example();
    store.settle();
    fixture = TestBed.createComponent(await PANELS[m.panel!]!.load());
    host = fixture.nativeElement as HTMLElement;
    await rest();
  }
  const all = (selector: string) => [...host.querySelectorAll<HTMLElement>(selector)];
  const chart = (n = 0) => Chart.getChart(all('canvas')[n] as HTMLCanvasElement)!;
  const drawn = (n = 0) => chart(n).data.datasets as unknown as Drawn[];
  const says = (n = 0) => all('canvas')[n]!.getAttribute('aria-label');
  const pick = async (label: string, id: string): Promise<void> => {
    await choose(fixture, label, id);
    await rest();
  };
  it('are there for every panel that a definition names, and for no other', () => {
    const named = new Set(METHODS.flatMap((m) => m.panel ?? (m.scene ? 'scene' : [])));
    expect([...named].sort()).toEqual(Object.keys(PANELS).sort());
  });

  for (const m of METHODS.filter((method) => method.panel !== undefined)) {
    it(`${m.id}: stands empty without a fault, and in inch-pound units too`, async () => {
      await show(m.id, false);
      store.choose({ system: 'us' });
      await rest();
      store.example();
      store.choose({ system: 'us' });
      await rest();
      expect(host.textContent).not.toContain('NaN');
    });
  }

  it('sieves: passing against opening, and the band that is chosen about it', async () => {
    await show('gradation');
    expect(drawn()[0]!.data.map((p) => [p.x, Math.round(p.y)])).toContain([2.36, 86]);
    expect(drawn()[1]!.data).toEqual([]);
    store.set('band', 'fine');
    await rest();
    expect([host.querySelector('[data-testid="against"]')?.textContent, drawn()[1]!.data.length]).toEqual(['within the band', 8]);
    // What is drawn first lies on top: a band over the curve would hide it.
    const filled = chart().data.datasets.map((d) => 'fill' in d && d.fill !== undefined);
    expect(filled.indexOf(true)).toBeGreaterThan(0);
    store.set('band', '57');
    await rest();
    expect(host.querySelector('[data-testid="against"]')?.textContent).toContain('outside the band: above at');
    expect(says()).toContain('2.36 mm 86 %');
  });

  it('shares: moved, the others give way; those that lie best are taken by a press', async () => {
    await show('combined-grading');
    const shares = () => (store.inputs()['parts'] as unknown as { share: { text: string } }[]).map((p) => p.share.text);
    fixture.debugElement.query(By.css('p-slider')).triggerEventHandler('ngModelChange', 80);
    await rest();
    expect(shares()).toEqual(['80', '20']);
    expect(host.querySelector('[data-testid="against"]')?.textContent).toBe('outside the band');
    host.querySelector<HTMLElement>('[data-testid="take-best"]')!.click();
    await rest();
    expect(host.querySelector('[data-testid="against"]')?.textContent).toBe('within the band');
    expect([host.querySelector('[data-testid="take-best"]'), drawn().length]).toEqual([null, 5]);
  });

  it('drying: the track, the next weighing and the estimate; a mass that went up stands out', async () => {
    await show('constant-mass');
    expect(drawn()[0]!.data.at(-1)).toEqual({ x: 120, y: 2415.1 });
    expect(drawn()[1]!.data.map((p) => p.x)).toEqual([150, 150]);
    store.paste('track', '150\t2416', {}, 3);
    await rest();
    const colours = chart().data.datasets[0]!.backgroundColor as string[];
    expect(new Set(colours.slice(0, 3)).has(colours[3]!)).toBeFalse();
  });

  it('tree: every split over what it feeds, the kept ones dashed', async () => {
    await show('reduction-tree');
    const places = all('[data-kind="test"]').map((g) => g.dataset['split']);
    expect(places.sort()).toEqual([...store.working()!.results.find((r) => r.id === 'splits')!.words!].sort());
    expect(all('[data-kind="kept"]').length).toBe(store.working()!.results.find((r) => r.id === 'kept')!.words!.length);
    expect(all('[data-split="bulk"]')[0]!.textContent).toContain('48');
    // One line down to every box but the bulk.
    expect(all('path').length).toBe(all('g').length - 1);
  });

  it('trace: the line of the latter half, and a machine that is driven too fast', async () => {
    await show('loading-rate');
    expect(drawn()[0]!.data.map((p) => p.x)).toEqual([80, 148]);
    host.querySelector<HTMLButtonElement>('[data-testid="simulate-fast"]')!.click();
    await rest();
    expect(store.evaluation()!.validity.state).toBe('marked');
    expect(store.said()).toContain('simulated break');
    expect(drawn()[1]!.data.length).toBeGreaterThan(20);
  });

  it('series: tests, means, CUSUM and histogram; what breaks a rule is a triangle', async () => {
    await show('aci-acceptance');
    expect([drawn(0)[0]!.data.length, drawn(0)[1]!.data.length, drawn(1)[0]!.data.length]).toEqual([6, 8, 8]);
    expect((chart(0).data.datasets[1] as unknown as { pointStyle: string[] }).pointStyle.indexOf('triangle')).toBe(4);
    expect(says()).toBe('8 tests, breaking a rule: 5, 6');
    expect((chart(2).data.datasets[0]!.data as unknown as number[]).reduce((sum, n) => sum + n, 0)).toBe(8);
    expect(all('[data-statistic="deviation"]')[0]!.textContent).toMatch(/2\.\d+ MPa/);
  });

  it('pairs: the one asked about lies within its interval', async () => {
    await show('early-warning');
    expect(says()).toContain('9 pairs');
    const [now] = drawn()[0]!.data;
    const [low, high] = drawn()[2]!.data;
    expect([now!.x, low!.y < now!.y, now!.y < high!.y]).toEqual([23.9, true, true]);
    await show('rebound-strength');
    expect(drawn()[1]!.data.length).toBeGreaterThan(5);
  });

  it('impacts: what is thrown out is struck through; areas that stand out likewise', async () => {
    await show('rebound');
    expect(all('[data-out="true"] text')[0]!.textContent?.trim()).toBe('31');
    expect(host.textContent).toContain('thrown out, not counted: ');
    await show('rebound-uniformity');
    expect(all('[data-out="true"]').length).toBe(1);
  });

  it('map: cells in their classes, lines at every step, and a cell that was not read is only bridged', async () => {
    await show('half-cell-map');
    expect(all('rect').length).toBe(39);
    expect(all('rect.corrosion').length).toBe(3);
    // −120 mV at 14 °C is −127.38: the whole millivolt has room in its cell, and so has every other.
    const figures = all('text.fig').map((t) => t.textContent.trim());
    expect([figures[0], figures.every((text) => text.length <= 4)]).toEqual(['-127', true]);
    expect(all('[data-line]').map((l) => l.dataset['line'])).toEqual(['-400', '-300', '-200']);
    // The ring about a single cell would have its name on the figure.
    expect(all('text.on').map((t) => t.textContent)).toEqual(['-300', '-200']);
    const [x] = drawn()[1]!.data;
    expect(x!.x).toBe(-200);
    expect(host.querySelector('p.small')?.textContent).toMatch(/unlikely 67 %.*uncertain 26 %.*likely 8 %.*bridged/s);
    store.set('lines', null);
    store.paste('lines', '210\t380\n250\t300', {}, 0);
    await rest();
    expect(all('rect').map((r) => r.getAttribute('class'))).toEqual(['unclassed', 'unclassed', 'unclassed', 'unclassed']);
    expect(host.querySelector('p.small')?.textContent).toContain('No classes before the signs are turned');
    store.paste('lines', '-120', {}, 0);
    store.set('lines', null);
    await rest();
    expect(all('rect').length).toBe(0);
  });

  it('prisms: mean and each, against age or its root', async () => {
    await show('length-series');
    expect(drawn().map((d) => d.data.length)).toEqual([6, 6, 6, 6]);
    await pick('Against', 'root');
    expect(drawn()[0]!.data[1]!.x).toBeCloseTo(Math.sqrt(28), 9);
  });

  it('flow: the line runs through the steady part alone', async () => {
    await show('constant-head');
    expect(drawn()[0]!.data.map((p) => p.x)).toEqual([3600, 10800]);
    expect(says()).toContain('steady from 3600 s');
  });

  it('weigh-up: ticked off one by one, and a tick taken back', async () => {
    await show('trial-batch');
    const box = host.querySelector<HTMLInputElement>('input')!;
    const weighed = () => host.querySelector('[data-testid="weighed"]')!.textContent;
    box.click();
    await rest();
    expect(weighed()).toBe('1 of 6');
    // Opened again it goes on where it was.
    await show('trial-batch');
    expect(host.querySelector('[data-testid="weighed"]')!.textContent).toBe('1 of 6');
    host.querySelector<HTMLInputElement>('input')!.click();

    await rest();
    expect([weighed(), all('ol li').length]).toEqual(['0 of 6', 5]);
    expect(all('li b')[0]!.textContent).toBe('25.51 kg');
  });

  it('stones: how they look is one press, and what is past SSD, or shines, is asked about', async () => {
    await show('coarse-gravity');
    const press = async (look: string) => {
      host.querySelector<HTMLButtonElement>(`[data-look="${look}"]`)!.click();
      await rest();
      return store.evaluation()!.issues.map((i) => i.code);
    };
    expect(METHODS.filter((m) => m.scene && m.panel).map((m) => m.id)).toEqual(['coarse-gravity']);
    expect(host.querySelector('km-scene svg')).not.toBeNull();
    expect([await press('edges'), await press('film'), await press('damp')]).toEqual([['stone-past-ssd'], ['film-on-stone'], []]);
    expect(all('[aria-pressed="true"]').length).toBe(1);
    await press('damp');
    expect(all('[aria-pressed="true"]').length).toBe(0);
  });

  it('cone: what the sand did is one press, and wetted sand is covered for its time', async () => {
    await show('cone', false);
    host.querySelector<HTMLButtonElement>('[data-look="fell"]')!.click();
    await rest();
    expect(all('.log li').length).toBe(1);
    expect(host.querySelector('[data-testid="covered"]')?.textContent).toContain('Covered, taking up water');
    expect(all('.log .small').at(-1)!.textContent).toBe('past SSD: mix in water, cover, try again');
  });

  it('draws what is weighed with its readings on it, and a specimen as slim as it is', async () => {
    store.open(methodById('fine-gravity')!);
    store.example();
    store.settle();
    fixture = TestBed.createComponent(await PANELS['scene']!.load());
    host = fixture.nativeElement as HTMLElement;
    await rest();
    expect(all('.on b').map((b) => b.textContent)).toEqual(['661.8 g', '500.3 g', '971.6 g', '190.5 g', '493.6 g']);
    store.open(methodById('cylinder')!);
    store.example();
    await rest();
    const drawnBox = (): number[] =>
      all('path.con')[0]!
        .getAttribute('d')!
        .match(/[\d.]+/g)!
        .map(Number);
    const [, , w, h] = drawnBox();
    expect(h! / w!).toBeCloseTo(203 / 101.5, 2);
    expect(all('text').map((t) => t.textContent)).toEqual(['203 mm', '101.5 mm', '101.75 mm']);
  });
});
