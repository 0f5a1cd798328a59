import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { DateTime } from 'luxon';
import { ButtonDirective } from 'primeng/button';
import { DatePicker } from 'primeng/datepicker';

/** The picker's own clock is the device's: what it shows is the wall clock of the zone. */
const asWall = (at: DateTime): Date => new Date(at.year, at.month - 1, at.day, at.hour, at.minute, at.second);
const fromWall = (at: Date, zone: string): DateTime =>
  DateTime.fromObject(
    {
      year: at.getFullYear(),
      month: at.getMonth() + 1,
      day: at.getDate(),
      hour: at.getHours(),
      minute: at.getMinutes(),
      second: at.getSeconds(),
    },
    { zone },
  );

/** A moment, a day or a time of day, on the wall clock of a zone, 24 hours, keyed or picked. */
@Component({
  selector: 'km-moment',
  imports: [ButtonDirective, DatePicker, FormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-datepicker
      appendTo="body"
      dateFormat="d M yy"
      hourFormat="24"
      [inputId]="inputId()"
      [ariaLabel]="label()"
      [timeOnly]="of() === 'time'"
      [showTime]="of() !== 'day'"
      [showSeconds]="seconds()"
      [stepMinute]="stepMinutes()"
      [disabled]="disabled()"
      [fluid]="true"
      [firstDayOfWeek]="1"
      [keepInvalid]="true"
      [showOnFocus]="false"
      [showIcon]="!disabled()"
      iconDisplay="input"
      [inputStyleClass]="look()"
      [ngModel]="wall()"
      (ngModelChange)="given($event)"
    />
    @if (of() === 'moment' && !disabled()) {
      <button pButton [text]="true" type="button" class="link" (click)="chosen.emit(now())">now</button>
    }
  `,
  styles: `
    :host {
      display: flex;
      min-width: 0;
    }
    p-datepicker {
      flex: 1;
      min-width: 0;
    }
  `,
})
export class Moment {
  readonly label = input.required<string>();
  /** ISO moment; for a day `yyyy-mm-dd`. Empty or null where none was given. */
  readonly value = input.required<string | null>();
  readonly of = input<'moment' | 'day' | 'time'>('moment');
  readonly zone = input('local');
  readonly seconds = input(false);
  readonly stepMinutes = input(1);
  readonly disabled = input(false);
  readonly wrong = input(false);
  readonly inputId = input<string>();
  readonly chosen = output<string | null>();
  protected readonly look = computed(() => `fig${this.wrong() ? ' ng-wrong' : ''}`);

  private readonly at = computed(() => {
    const value = this.value();
    if (!value) return null;
    const at = DateTime.fromISO(value, { zone: this.of() === 'day' ? 'local' : this.zone() });
    return at.isValid ? at : null;
  });
  protected readonly wall = computed(
    () => {
      const at = this.at();
      return at ? asWall(at) : null;
    },
    { equal: (a, b) => a?.getTime() === b?.getTime() },
  );

  /** A time of day keeps the day that it is on; a first one is on today, where the zone is. */
  private timeOf(wall: Date): string | null {
    const day = this.at() ?? DateTime.now().setZone(this.zone());
    const time = { hour: wall.getHours(), minute: wall.getMinutes(), second: wall.getSeconds(), millisecond: 0 };
    return day.set(time).toUTC().toISO();
  }

  protected readonly now = (): string | null => DateTime.utc().toISO();

  protected given(wall: Date | string | null): void {
    // While it is being keyed the text is no date yet: what was there stays until it is one.
    if (typeof wall === 'string') return;
    if (wall === null) this.chosen.emit(null);
    else if (this.of() === 'time') this.chosen.emit(this.timeOf(wall));
    else if (this.of() === 'day') this.chosen.emit(DateTime.fromJSDate(wall).toISODate());
    else this.chosen.emit(fromWall(wall, this.zone()).toUTC().toISO());
  }
}
