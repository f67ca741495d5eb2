/** The sound of a timer: two tones, louder the longer nobody hears them. Nothing is fetched for it. */

let context: AudioContext | null = null;

/** Let sound be heard: browsers allow it only after somebody has touched the page. */
export async function allowSound(): Promise<boolean> {
  context ??= new AudioContext();
  if (context.state === 'suspended') await context.resume().catch(() => undefined);
  return context.state === 'running';
}

export const isSoundAllowed = () => context?.state === 'running';

const LOUDEST = 0.9;
const SOFTEST = 0.15;
const LOUDER_WITHIN_S = 60;

/** How loud it rings after so many seconds, 0 to 1. */
export const loudness = (rungS: number) =>
  Math.min(LOUDEST, SOFTEST + ((LOUDEST - SOFTEST) * Math.max(0, rungS)) / LOUDER_WITHIN_S);

/** Ring once. */
export function ring(rungS: number) {
  if (context?.state === 'running') {
    const at = context.currentTime;
    for (const [index, hertz] of [880, 660].entries()) {
      const tone = context.createOscillator();
      const gain = context.createGain();
      tone.frequency.value = hertz;
      gain.gain.setValueAtTime(loudness(rungS), at + index * 0.22);
      gain.gain.exponentialRampToValueAtTime(0.001, at + index * 0.22 + 0.2);
      tone.connect(gain).connect(context.destination);
      tone.start(at + index * 0.22);
      tone.stop(at + index * 0.22 + 0.21);
    }
  }
  navigator.vibrate?.([200, 100, 200]);
}
