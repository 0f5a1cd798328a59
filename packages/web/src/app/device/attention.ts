import { Injectable } from '@angular/core';

/** Heard and felt: a fuse that is about to end, and the screen stays awake while one burns. */
@Injectable({ providedIn: 'root' })
export class Attention {
  private audio: AudioContext | null = null;
  private lock: WakeLockSentinel | null = null;
  private wanted = false;

  constructor() {
    // The browser lets go of the lock when the page is hidden: it is asked for again when somebody looks.
    document.addEventListener('visibilitychange', () => {
      if (this.wanted && document.visibilityState === 'visible') void this.take();
    });
  }

  /** Two short tones, rising for a warning and falling when it is over. */
  alert(kind: 'soon' | 'over'): void {
    if ('vibrate' in navigator && navigator.userActivation.hasBeenActive) navigator.vibrate(kind === 'soon' ? [120, 80, 120] : [400]);
    if (!navigator.userActivation.hasBeenActive) return;
    this.audio ??= new AudioContext();
    const pitches = kind === 'soon' ? [660, 880] : [880, 440];
    pitches.forEach((pitch, i) => this.tone(pitch, i * 0.18));
  }

  async stayAwake(wanted: boolean): Promise<void> {
    if (wanted === this.wanted || !('wakeLock' in navigator)) return;
    this.wanted = wanted;
    if (wanted) await this.take();
    else {
      await this.lock?.release().catch(() => undefined);
      this.lock = null;
    }
  }

  private async take(): Promise<void> {
    this.lock = await navigator.wakeLock.request('screen').catch(() => null);
  }

  private tone(pitch: number, after: number): void {
    const audio = this.audio;
    if (!audio) return;
    const [oscillator, gain] = [audio.createOscillator(), audio.createGain()];
    oscillator.frequency.value = pitch;
    gain.gain.value = 0.15;
    oscillator.connect(gain).connect(audio.destination);
    oscillator.start(audio.currentTime + after);
    oscillator.stop(audio.currentTime + after + 0.14);
  }
}
