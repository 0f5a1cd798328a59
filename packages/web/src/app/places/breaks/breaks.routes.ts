import type { Routes, UrlMatchResult, UrlSegment } from '@angular/router';
import { BreaksPage } from './breaks-page';

/** One station, with a specimen in hand or none: what is being keyed at it stays when one comes into hand. */
const station = (segments: UrlSegment[]): UrlMatchResult | null =>
  segments.length > 1 ? null : { consumed: segments, posParams: segments[0] ? { specimenId: segments[0] } : {} };

export const breaksRoutes: Routes = [{ matcher: station, title: 'Breaks · Keen Mortar', component: BreaksPage }];
