import { ChangeDetectionStrategy, Component, inject, provideZonelessChangeDetection, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { methodById, type AnyInputs, type RowsField, type Shape } from '@keen-mortar/core';
import { provideStore } from '@ngrx/store';
import { DateTime } from 'luxon';
import { choiceOf, choose, pickMoment } from '../../testing/kit';
import { hand } from '../../state/hand';
import { session } from '../../state/session';
import { Answers } from '../../test/answers';
import { Form } from '../../test/form/form';
import { Finder } from './finder';
import { ComputationForm } from '../../test/computation-form';
import { VariantTable } from './variant-table';
import { ComputationStore } from '../../test/computation.store';

@Component({
  imports: [Form],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<km-form #of (done)="of.next($event)" [method]="store.method()!" [form]="form" [rows]="form" />',
})
class EntryForm {
  readonly store = inject(ComputationStore);
  readonly form = new ComputationForm(this.store);
}

describe('the form of a computation', () => {
  let store: InstanceType<typeof ComputationStore>;
  let fixture: ComponentFixture<unknown>;
  let host: HTMLElement;

  beforeEach(() => {
    localStorage.setItem('km.scratch.system', 'si');
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideRouter([]),
        provideStore({ [session.name]: session.reducer, [hand.name]: hand.reducer }),
        ComputationStore,
      ],
    });
    store = TestBed.inject(ComputationStore);
  });

  async function show(type: Type<unknown>, method: string, example = false): Promise<void> {
    store.open(methodById(method)!);
    if (example) store.example();
    store.settle();
    fixture = TestBed.createComponent(type);
    host = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
  }
  const all = (selector: string) => [...host.querySelectorAll<HTMLElement>(selector)];
  const texts = (selector: string) => all(selector).map((e) => e.textContent?.replace(/\s+/g, ' ').trim());
  const cell = (at: string) => host.querySelector<HTMLInputElement>(`[data-cell="${at}"]`)!;
  const type = async (box: HTMLInputElement, text: string): Promise<void> => {
    box.value = text;
    box.dispatchEvent(new Event('input', { bubbles: true }));
    await fixture.whenStable();
  };
  const press = async (box: HTMLElement, key: string): Promise<void> => {
    box.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
    await fixture.whenStable();
  };
  const paste = async (box: HTMLElement, text: string): Promise<ClipboardEvent> => {
    const data = new DataTransfer();
    data.setData('text/plain', text);
    const event = new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true });
    box.dispatchEvent(event);
    await fixture.whenStable();
    return event;
  };

  const labelOf = (id: string): string => store.fields().find(([field]) => field === id)![1].label;

  describe('readings', () => {
    it('are those that the variant asks for, the seldom ones last, with the hints of the method', async () => {
      await show(EntryForm, 'slump');
      const ids = () => all('km-reading-field input').map((e) => e.id.replace('scratch-', ''));
      expect(ids()).toEqual(['lift', 'total', 'drop', 'largest', 'centre', 'mold']);
      store.choose({ variant: 'en' });
      await fixture.whenStable();
      expect(ids()).toEqual(['lift', 'total', 'dropHighest', 'largest', 'highest', 'mold']);
      expect(texts('km-reading-field label')[0]).toMatch(/^Lift 2 to 5 s/);
    });

    it('take one offer for a slip that went through several of them', async () => {
      await show(EntryForm, 'cylinder', true);
      for (const [id, text] of [
        ['d1', '4.01'],
        ['d2', '4.00'],
        ['length', '8.01'],
        ['load', '74.2'],
      ] as const)
        store.key(id, text, id === 'load' ? 'kN' : 'mm');
      store.settle();
      await fixture.whenStable();
      const [offer, ...more] = all('.offer');
      expect([offer!.textContent?.trim(), more.length]).toEqual(['Meant 4.01, 4.00 and 8.01 in?', 0]);
      offer!.click();
      expect(['d1', 'd2', 'length'].map((id) => store.inputs()[id])).toEqual(
        ['4.01', '4.00', '8.01'].map((text) => ({ text, unit: 'in' })) as never,
      );
    });

    it('say what is wrong beneath them, offer what was meant, and stay as they were typed', async () => {
      await show(EntryForm, 'density', true);
      const volume = host.querySelector<HTMLInputElement>('#scratch-volume')!;
      await type(volume, '7043');
      expect(volume.value).toBe('7043');
      expect(volume.getAttribute('aria-invalid')).toBe('true');
      const offer = host.querySelector<HTMLButtonElement>('#scratch-volume-why .offer')!;
      offer.click();
      await fixture.whenStable();
      expect(store.evaluation()!.results[0]!.reported).toBe('2286');
    });

    it('go on with Enter, and a unit is another reading of the same digits', async () => {
      await show(EntryForm, 'density', true);
      document.body.append(host);
      const [full, empty] = all('km-reading-field input');
      full!.focus();
      await press(full!, 'Enter');
      expect(document.activeElement).toBe(empty!);
      await choose(fixture, 'Unit of Measure full', 'lb');
      expect(store.inputs()['full']).toEqual({ text: '19.31', unit: 'lb' } as never);
      host.remove();
    });

    it('a stopwatch keys what it measured; days have none', async () => {
      await show(EntryForm, 'slump');
      const watch = host.querySelector<HTMLButtonElement>('.watch')!;
      watch.click();
      await fixture.whenStable();
      expect(watch.textContent?.trim()).toBe('stop');
      watch.click();
      await fixture.whenStable();
      expect((store.inputs()['lift'] as { text: string }).text).toMatch(/^\d\.\d$/);
      await show(EntryForm, 'length-series');
      expect(all('.watch').length).toBe(0);
    });

    it('picks and moments are kept as their ids and with their offset', async () => {
      await show(EntryForm, 'length-schedule');
      const [bars, batched] = [labelOf('bars'), labelOf('batched')];
      expect(choiceOf(fixture, bars).value()).toBe('prisms');
      await choose(fixture, bars, 'bars');
      await pickMoment(fixture, batched, '2026-05-12T09:42:00.000Z');
      expect(store.inputs()['bars']).toBe('bars' as never);
      expect(store.inputs()['batched']).toBe('2026-05-12T09:42:00.000Z' as never);
      // Shown on the wall clock of this device, which is where it was read.
      const shown = DateTime.fromISO('2026-05-12T09:42:00Z').toFormat('d LLL yyyy HH:mm');
      expect(host.querySelector<HTMLInputElement>('#scratch-batched')!.value).toBe(shown);
    });
  });

  describe('a table of rows', () => {
    it('has an empty row to key on, answers beside each row, and goes on down a column', async () => {
      await show(EntryForm, 'gradation', true);
      document.body.append(host);
      expect(all('tbody tr').length).toBe(8 + 1);
      expect(texts('[data-answer="reported"]').slice(0, 3)).toEqual(['100', '98', '86']);
      cell('7.1').focus();
      await press(cell('7.1'), 'Enter');
      expect(document.activeElement).toBe(cell('8.1'));
      await press(cell('8.1'), 'ArrowUp');
      expect(document.activeElement).toBe(cell('7.1'));
      await type(cell('8.1'), '1.2');
      expect(store.evaluation()!.missing).toEqual(['sieves.8.opening']);
      host.remove();
    });

    it('says at its row what is wrong there, and takes a row out', async () => {
      await show(EntryForm, 'gradation', true);
      await type(cell('2.0'), '9.5');
      expect(all('.cell.bad').length).toBe(1);
      expect(texts('.fault')).toEqual(['Sieves stand coarsest first, each once. Put them in order.']);
      all('[aria-label="Remove row 3"]')[0]!.click();
      await fixture.whenStable();
      expect([all('.cell.bad').length, all('tbody tr').length, store.said()]).toEqual([0, 8, 'Row 3 removed.']);
    });

    it('takes a paste from a cell on, lets a single value through to the cell, and keeps the unit of its columns', async () => {
      await show(EntryForm, 'gradation');
      await choose(fixture, 'Unit of Retained', 'kg');
      expect((await paste(cell('0.0'), '4.75\t0.0128\n2.36\t0.0571')).defaultPrevented).toBeTrue();
      expect((store.inputs()['sieves'] as unknown as { retained: object }[])[1]!.retained).toEqual({ text: '0.0571', unit: 'kg' });
      expect((await paste(cell('1.1'), '0.06')).defaultPrevented).toBeFalse();
    });

    it('shows beside a cell the unit that is not its column’s', async () => {
      await show(EntryForm, 'gradation');
      await paste(cell('0.0'), '4.75\t12.8\n2.36\t57.1');
      store.key('sieves.1.retained', '0.0571', 'kg');
      await fixture.whenStable();
      expect(texts('.u')).toEqual(['kg']);
    });

    it('of many rows scrolls in a window and says above it what is wrong', async () => {
      await show(EntryForm, 'aci-acceptance');
      await paste(cell('0.0'), [...Array.from({ length: 99 }, () => '38.5'), 'tall'].join('\n'));
      expect(host.querySelector('p-scroller')).not.toBeNull();
      expect(texts('.fault').length).toBe(1);
      expect(texts('.fault')[0]).toMatch(/^Row 100: /);
      // Paper has no window.
      dispatchEvent(new Event('beforeprint'));
      expect([host.querySelector('p-scroller'), cell('99.0').value]).toEqual([null, 'tall']);
      dispatchEvent(new Event('afterprint'));
      expect(host.querySelector('p-scroller')).not.toBeNull();
    });

    it('moments and picks have their cells', async () => {
      await show(EntryForm, 'cone');
      const rows = (methodById('cone')!.fields as Shape)['trials'] as RowsField;
      await choose(fixture, `${rows.of['look']!.label}, row 1`, 'kept');
      host.querySelector<HTMLButtonElement>('km-moment .link')!.click();
      await fixture.whenStable();
      const [trial] = store.inputs()['trials'] as unknown as { at: string; look: string }[];
      expect([trial!.look, Number.isNaN(Date.parse(trial!.at))]).toEqual(['kept', false]);
      expect(texts('[data-answer="log"]')[0]).toBe('wetter than SSD: go on drying');
    });
  });

  describe('a grid', () => {
    it('takes a block, leaves a cell unread, and goes from cell to cell', async () => {
      await show(EntryForm, 'half-cell-map');
      await paste(cell('0.0'), '-120\t-150\n-\t-260');
      document.body.append(host);
      expect([cell('0.1').value, cell('1.0').value, cell('1.1').value]).toEqual(['-150', '', '-260']);
      cell('0.1').focus();
      await press(cell('0.1'), 'ArrowDown');
      expect(document.activeElement).toBe(cell('1.1'));
      host.remove();
    });

    it('marks a cell that cannot be read and says which', async () => {
      await show(EntryForm, 'half-cell-map', true);
      await type(cell('1.2'), 'wet');
      expect(cell('1.2').getAttribute('aria-invalid')).toBe('true');
      expect(texts('.fault')[0]).toMatch(/^Row 2, column 3: /);
    });

    it('keys tests with their companions, in one unit', async () => {
      await show(EntryForm, 'strength-statistics');
      await type(cell('0.0'), '5010');
      await type(cell('0.1'), '5130');
      await choose(fixture, 'Unit of Strength', 'psi');
      expect(store.inputs()['tests']).toEqual([
        { companions: [{ strength: { text: '5010', unit: 'psi' } }, { strength: { text: '5130', unit: 'psi' } }] },
      ] as never);
      // 5070 psi is 34.956 MPa: three figures, rounded.
      expect([texts('th.along')[0], texts('[data-answer="tests"]')[0]]).toEqual(['Tests, MPa', '35.0']);
    });
  });

  describe('answers', () => {
    it('show the main result large, the others beside their names, and never what only a picture draws', async () => {
      await show(Answers, 'loading-rate', true);
      expect(texts('.main p')).toEqual(['Rate of the latter half0.25MPa/s']);
      expect(texts('dl div')).toEqual(['Points in the fit5']);
    });

    it('name what is missing, with its row', async () => {
      await show(Answers, 'gradation');
      store.set('sieves', null);
      store.paste('sieves', '4.75\t10\n2.36');
      await fixture.whenStable();
      expect(texts('[data-testid="missing"]')[0]).toBe('Still needed: original dry mass, retained in row 2.');
    });

    it('say why a test is void or marked, and what the method remarks', async () => {
      await show(Answers, 'slump', true);
      store.set('shape', 'shear');
      await fixture.whenStable();
      expect(texts('.needs').length).toBeGreaterThan(0);
      expect(texts('[data-result="slump"]')).toEqual([]);
    });

    it('of a void test are no large figure: what is given of it stands among the others', async () => {
      await show(Answers, 'flask-correction', true);
      store.key('testedAt', '27', 'C');
      await fixture.whenStable();
      expect(texts('.main p')).toEqual(['This test isvoid']);
      expect(texts('dl [data-result="corrected"]')[0]).toContain('Flask and water at the test');
    });

    it('are words where the method speaks, and the first of many', async () => {
      await show(Answers, 'cone', true);
      expect(texts('[data-result="state"] b')).toEqual(['SSD: weigh now']);
      await show(Answers, 'aci-acceptance');
      store.paste('tests', Array.from({ length: 20 }, () => '30').join('\n'));
      store.key('specified', '35', 'MPa');
      await fixture.whenStable();
      expect(texts('[data-result="ruleA"] dd')[0]).toMatch(/^3; 4; .* … 18 in all$/);
    });
  });

  describe('the variants', () => {
    it('stands side by side: what differs is marked, what one would need is named, and one can be taken', async () => {
      await show(VariantTable, 'density', true);
      expect(texts('[data-variant="en"] td.differs')).toEqual(['2290 kg/m³']);
      all('[data-variant="en"] button')[0]!.click();
      store.settle();
      await fixture.whenStable();
      expect([store.variant(), all('tr.here')[0]?.dataset['variant']]).toEqual(['en', 'en']);
      await show(VariantTable, 'slump');
      store.set('shape', 'true');
      store.key('centre', '204', 'mm');
      store.settle();
      await fixture.whenStable();
      expect(texts('[data-variant="en"] td')).toEqual(['Would need: slump, measured down to the highest point.']);
      await show(VariantTable, 'flask-correction', true);
      store.key('testedAt', '24.9', 'C');
      store.settle();
      await fixture.whenStable();
      expect(texts('td')).toEqual(['661.57 g', 'Void.', '661.57 g']);
    });
  });

  it('the finder finds by any name, and a press on what it found opens that', async () => {
    await show(Finder, 'density');
    const chosen: string[] = [];
    (fixture.componentInstance as Finder).chosen.subscribe((id) => chosen.push(id));
    document.body.append(host);
    const list = () => [...document.querySelectorAll<HTMLElement>('.p-autocomplete-option')];
    const box = host.querySelector<HTMLInputElement>('#finder')!;
    const seek = async (words: string) => {
      await type(box, words);
      await new Promise((done) => setTimeout(done, 50));
      await fixture.whenStable();
    };
    await seek('slump');
    expect(list()[0]!.querySelector('b')!.textContent).toBe('Slump');
    list()[0]!.click();
    await fixture.whenStable();
    expect(chosen).toEqual(['slump']);
    await seek('xyzzy');
    expect(document.querySelector('.p-autocomplete-empty-message')!.textContent).toContain('No computation has that name.');
    host.remove();
  });

  it('an input of another method never stays behind', async () => {
    await show(EntryForm, 'slump');
    store.key('centre', '204', 'mm');
    store.open(methodById('density')!, { variant: 'astm', system: 'us', inputs: {} as AnyInputs });
    await fixture.whenStable();
    expect([store.inputs(), store.system(), store.past()]).toEqual([{}, 'us', []] as never);
  });
});
