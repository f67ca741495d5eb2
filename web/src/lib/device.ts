const KEY = 'yantai/device';
export const LONGEST_DEVICE_NAME = 60;

/** What this device is called in the history of a batch: as it was named here, or the kind of device it seems to be. */
export function deviceName(): string {
  try {
    const named = localStorage.getItem(KEY);
    if (named) return named;
  } catch {
    // Storage that is switched off: the device has no name of its own.
  }
  return kindOfDevice();
}

/** Name this device; an empty name takes the name off. */
export function nameDevice(name: string) {
  const trimmed = name.trim().slice(0, LONGEST_DEVICE_NAME);
  try {
    if (trimmed) localStorage.setItem(KEY, trimmed);
    else localStorage.removeItem(KEY);
  } catch {
    // Without storage it is called by its kind.
  }
}

function kindOfDevice(): string {
  if (!window.matchMedia('(pointer: coarse)').matches) return 'computer';
  return Math.min(window.screen.width, window.screen.height) < 600 ? 'phone' : 'tablet';
}
