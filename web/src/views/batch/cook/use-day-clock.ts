import { useEffect, useState } from 'react';

/**
 * What the clock of the kitchen shows, in seconds from midnight of the cook day. It is the server's time as it was told,
 * and goes on by the time that has passed since: what the clock of this device says does not matter.
 */
export function useDayClock(toldS: number, toldAt: number): number {
  const [now, setNow] = useState(() => performance.now());
  useEffect(() => {
    const tick = () => setNow(performance.now());
    const timer = setInterval(tick, 1000);
    document.addEventListener('visibilitychange', tick);
    return () => {
      clearInterval(timer);
      document.removeEventListener('visibilitychange', tick);
    };
  }, []);
  return toldS + Math.max(0, (now - toldAt) / 1000);
}
