import { useState } from 'react';

/** The chosen entry of a list that changes while one types: the first, until another that is there is chosen. */
export function useFirstSelected(keys: string[]) {
  const [chosen, setChosen] = useState('');
  return { value: keys.includes(chosen) ? chosen : (keys[0] ?? ''), onValueChange: setChosen };
}
