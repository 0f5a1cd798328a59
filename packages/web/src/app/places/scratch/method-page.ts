import { ButtonDirective } from 'primeng/button';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Title } from '@angular/platform-browser';
import { methodById } from '@keen-mortar/core';
import { methodPage } from '@keen-mortar/core/pages';
import { marked } from 'marked';

/** The page of a method, made from its definition here in the browser: it is there without a network. */
@Component({
  selector: 'km-method-page',
  imports: [RouterLink, ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <article class="place">
      @if (html(); as page) {
        <p class="to">
          <a pButton severity="secondary" [routerLink]="['/scratch', method()]">Compute it</a>
          <a pButton [text]="true" class="link" routerLink="/scratch">All computations</a>
          <a pButton [text]="true" class="link" [href]="'/api/v1/field-sheets/' + method()" target="_blank" rel="noopener"
            >Field sheet to write on</a
          >
          @if (onRecord()) {
            <a pButton [text]="true" class="link" routerLink="/practice">How this lab does it</a>
          }
        </p>
        <div class="page" [innerHTML]="page"></div>
      } @else {
        <header>
          <h1>There is no method “{{ method() }}”</h1>
        </header>
        <p><a pButton [text]="true" class="link" routerLink="/scratch">All computations</a></p>
      }
    </article>
  `,
  styleUrl: './method-page.css',
})
export class MethodPage {
  readonly method = input.required<string>();
  private readonly title = inject(Title);

  protected readonly onRecord = computed(() => methodById(this.method())?.on !== undefined);
  protected readonly html = computed(() => {
    const m = methodById(this.method());
    this.title.setTitle(`${m?.title ?? 'No such method'} · Keen Mortar`);
    // On a phone a table is wider than the page: it scrolls by itself, by keys too.
    return m
      ? marked
          .parse(methodPage(m), { async: false })
          .replaceAll('<table>', '<div class="wide" tabindex="0" role="group" aria-label="Table"><table>')
          .replaceAll('</table>', '</table></div>')
      : null;
  });
}
