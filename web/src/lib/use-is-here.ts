import { useEffect, useRef } from 'react';

/** Whether the view that asks is still shown: an answer that comes later takes nobody to another page. */
export function useIsHere() {
  const here = useRef(false);
  useEffect(() => {
    here.current = true;
    return () => {
      here.current = false;
    };
  }, []);
  return here;
}
