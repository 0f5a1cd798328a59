import type { DebugElement } from '@angular/core';
import type { ComponentFixture } from '@angular/core/testing';
import { By } from '@angular/platform-browser';
import { Choice } from '../ui/choice';
import { Moment } from '../ui/moment';
import { Switch } from '../ui/switch';

const named = <T extends { label(): string }>(all: readonly DebugElement[], label: string): T => {
  const found = all.map((d) => d.componentInstance as T).find((c) => c.label() === label);
  if (!found) throw new Error(`nothing is labelled ${label}: ${all.map((d) => (d.componentInstance as T).label()).join(', ')}`);
  return found;
};

/** What a choice or a switch with this label shows. */
export const choiceOf = (fixture: ComponentFixture<unknown>, label: string): Choice | Switch =>
  named<Choice | Switch>(
    fixture.debugElement.queryAll((d) => d.componentInstance instanceof Choice || d.componentInstance instanceof Switch),
    label,
  );

/** Chooses one of a list, as a press on it does. */
export async function choose(fixture: ComponentFixture<unknown>, label: string, id: string): Promise<void> {
  const of = choiceOf(fixture, label);
  if (!of.options().some((o) => o.id === id)) throw new Error(`${label} has no ${id}`);
  of.chosen.emit(id);
  await fixture.whenStable();
}

export const momentOf = (fixture: ComponentFixture<unknown>, label: string): Moment =>
  named<Moment>(fixture.debugElement.queryAll(By.directive(Moment)), label);

/** Gives a moment, as its picker does. */
export async function pickMoment(fixture: ComponentFixture<unknown>, label: string, iso: string | null): Promise<void> {
  momentOf(fixture, label).chosen.emit(iso);
  await fixture.whenStable();
}
