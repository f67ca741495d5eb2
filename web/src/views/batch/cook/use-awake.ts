import { useEffect, useState } from 'react';

/** Keep the screen on while the page is shown; whether this browser lets it. */
export function useAwake(isWanted: boolean): boolean {
  const [isAwake, setIsAwake] = useState(false);
  useEffect(() => {
    if (!isWanted || !('wakeLock' in navigator)) return;
    let lock: WakeLockSentinel | null = null;
    let isOver = false;
    const take = async () => {
      if (document.visibilityState !== 'visible') return;
      try {
        lock = await navigator.wakeLock.request('screen');
        setIsAwake(true);
        lock.addEventListener('release', () => setIsAwake(false));
        if (isOver) await lock.release();
      } catch {
        // A battery that is low, or a policy: the page says that the screen may go dark.
        setIsAwake(false);
      }
    };
    void take();
    document.addEventListener('visibilitychange', take);
    return () => {
      isOver = true;
      document.removeEventListener('visibilitychange', take);
      void lock?.release();
    };
  }, [isWanted]);
  return isAwake;
}
