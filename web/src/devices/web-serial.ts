/** A scale that is plugged into this tablet, by the browser's Web Serial interface. */

import { readWeightLine } from '~/devices/lines';
import { type Reading, steadiness } from '~/devices/reading';

/** The part of the interface that is used here; browsers without it have no `navigator.serial`. */
type Port = {
  open: (how: { baudRate: number }) => Promise<void>;
  close: () => Promise<void>;
  readable: ReadableStream<Uint8Array> | null;
  writable: WritableStream<Uint8Array> | null;
};
type Serial = { requestPort: () => Promise<Port>; getPorts: () => Promise<Port[]> };

const serial = () => (navigator as { serial?: Serial }).serial;
export const hasWebSerial = () => serial() !== undefined;

/** Let a person choose the port; the browser remembers it. Whether one was chosen. */
export async function choosePort(): Promise<boolean> {
  try {
    return (await serial()?.requestPort()) !== undefined;
  } catch {
    // Nobody chose one.
    return false;
  }
}

type Talk = { baud: number; isAsked: boolean; silentUnit: string; stepG: number };
const ASK_EVERY_MS = 100;
const AGAIN_MS = 500;
const LOST: Reading = { state: 'lost', value: null, is_steady: false, unit: '', battery_low: false };

/** Read the port that was chosen here until the signal ends it; a plug that was out is tried again. */
export async function readPort(talk: Talk, heard: (reading: Reading) => void, signal: AbortSignal) {
  while (!signal.aborted) {
    const [port] = (await serial()?.getPorts()) ?? [];
    if (port) {
      try {
        await port.open({ baudRate: talk.baud });
        await readLines(port, talk, heard, signal);
      } catch {
        // The plug is out, or another page has the port: said below, and tried again.
      }
      await port.close().catch(() => undefined);
    }
    if (!signal.aborted) heard(LOST);
    await new Promise((again) => setTimeout(again, AGAIN_MS));
  }
}

async function readLines(port: Port, talk: Talk, heard: (reading: Reading) => void, signal: AbortSignal) {
  const reader = port.readable?.getReader();
  if (!reader) return;
  const read = steadiness(talk.stepG);
  const stop = () => void reader.cancel().catch(() => undefined);
  signal.addEventListener('abort', stop);
  const asking = talk.isAsked ? setInterval(() => void ask(port), ASK_EVERY_MS) : undefined;
  const decoder = new TextDecoder();
  let waiting = '';
  try {
    for (;;) {
      const { value, done } = await reader.read();
      if (done) return;
      const lines = (waiting + decoder.decode(value, { stream: true })).split(/[\r\n]+/);
      waiting = lines.pop() ?? '';
      for (const line of lines)
        if (line.trim()) heard(read(readWeightLine(line, talk.silentUnit), performance.now()));
    }
  } finally {
    clearInterval(asking);
    signal.removeEventListener('abort', stop);
    reader.releaseLock();
  }
}

async function ask(port: Port) {
  const writer = port.writable?.getWriter();
  try {
    await writer?.write(new TextEncoder().encode('SI\r\n'));
  } finally {
    writer?.releaseLock();
  }
}
