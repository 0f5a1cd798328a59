import { signal, type Signal } from '@angular/core';
import type { AbstractControl, FormGroup, ValidationErrors } from '@angular/forms';
import type { ZodType } from 'zod';

type Words = (path: string, message: string) => string;

/**
 * What stands between a form and its write: the contract's own schema says what is wrong, at its path, in the
 * words of the place. Nothing is said before the first try to keep.
 */
export class ZodForm<Body> {
  /** Faults by the path of the body; those that the server found are among them until something is keyed. */
  readonly faults: Signal<Readonly<Record<string, string>>>;
  private readonly said = signal<Readonly<Record<string, string>>>({});
  private tried = false;

  constructor(
    group: FormGroup,
    private readonly schema: ZodType<Body>,
    private readonly body: () => unknown,
    private readonly words: Words,
  ) {
    this.faults = this.said.asReadonly();
    group.addValidators((_control: AbstractControl): ValidationErrors | null =>
      this.schema.safeParse(this.body()).success ? null : { body: true },
    );
    group.valueChanges.subscribe(() => {
      if (this.tried) this.say();
    });
  }

  at(path: string): string {
    return this.said()[path] ?? '';
  }

  /** The body, checked; null with what is wrong said at each field. */
  take(): Body | null {
    this.tried = true;
    return this.say();
  }

  /** What the server refused, at its fields. */
  refused(errors: readonly { readonly path: string; readonly message: string }[]): void {
    this.said.set(Object.fromEntries(errors.map((e) => [e.path, e.message])));
  }

  private say(): Body | null {
    const parsed = this.schema.safeParse(this.body());
    const found = parsed.success
      ? []
      : parsed.error.issues.map((issue) => [issue.path.join('.'), this.words(issue.path.join('.'), issue.message)]);
    this.said.set(Object.fromEntries(found.reverse()) as Record<string, string>);
    return parsed.success ? parsed.data : null;
  }
}

/** The first field that something is wrong with, once it says so. */
export function focusFault(host: HTMLElement): void {
  setTimeout(() => host.querySelector<HTMLElement>('[aria-invalid="true"], .ng-wrong')?.focus());
}
