import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink } from '@angular/router';

@Component({
  selector: 'km-not-here',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<div class="place">
    <header><h1>There is nothing at this address</h1></header>
    <p>The pours are <a routerLink="/pours">here</a>.</p>
  </div>`,
})
export class NotHere {}
