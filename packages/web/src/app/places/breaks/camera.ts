import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  output,
  signal,
  viewChild,
  type AfterViewInit,
  type OnDestroy,
} from '@angular/core';
import jsQr from 'jsqr';
import { ButtonDirective } from 'primeng/button';

/** So often a picture is looked at, ms; and no wider than this. */
const LOOKS_EVERY = 200;
const WIDTH = 480;

/** The camera of the device, looking for the code of a label. */
@Component({
  selector: 'km-camera',
  imports: [ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-label="Camera, looking for a label" data-testid="camera">
      @if (fault(); as f) {
        <p class="needs" role="alert">{{ f }}</p>
      } @else {
        <video #video muted playsinline></video>
        <p class="soft small" role="status">Hold the label before the camera.</p>
      }
      <button pButton severity="secondary" type="button" (click)="closed.emit()">Close the camera</button>
    </section>
  `,
  styles: `
    section {
      display: grid;
      justify-items: start;
      gap: 6px;
      padding: 10px 20px;
      background: var(--well);
      border-bottom: 1px solid var(--rule);
    }
    video {
      width: min(100%, 420px);
      background: var(--plate);
    }
  `,
})
export class Camera implements AfterViewInit, OnDestroy {
  readonly found = output<string>();
  readonly closed = output();
  protected readonly fault = signal('');
  private readonly video = viewChild<string, ElementRef<HTMLVideoElement>>('video', { read: ElementRef });
  private stream: MediaStream | null = null;
  private timer: ReturnType<typeof setInterval> | undefined;
  private over = false;

  ngAfterViewInit(): void {
    void this.open();
  }

  private async open(): Promise<void> {
    // Without a certificate of its server a page has no camera.
    if (!navigator.mediaDevices) return this.fault.set('This page has no camera: open it over https, or key the code.');
    try {
      this.stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment' } });
    } catch {
      return this.fault.set('The camera cannot be used: allow it for this page, or key the code.');
    }
    const video = this.video()?.nativeElement;
    if (this.over || !video) return this.stop();
    video.srcObject = this.stream;
    await video.play().catch(() => undefined);
    const canvas = document.createElement('canvas');
    this.timer = setInterval(() => this.look(video, canvas), LOOKS_EVERY);
  }

  private look(video: HTMLVideoElement, canvas: HTMLCanvasElement): void {
    if (video.videoWidth === 0) return;
    const scale = Math.min(1, WIDTH / video.videoWidth);
    [canvas.width, canvas.height] = [Math.round(video.videoWidth * scale), Math.round(video.videoHeight * scale)];
    const context = canvas.getContext('2d', { willReadFrequently: true });
    if (!context) return;
    context.drawImage(video, 0, 0, canvas.width, canvas.height);
    const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
    const code = jsQr(data, canvas.width, canvas.height);
    if (!code || code.data === '') return;
    this.stop();
    this.found.emit(code.data);
  }

  private stop(): void {
    clearInterval(this.timer);
    for (const track of this.stream?.getTracks() ?? []) track.stop();
    this.stream = null;
  }

  ngOnDestroy(): void {
    this.over = true;
    this.stop();
  }
}
