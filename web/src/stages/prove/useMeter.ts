import { useState } from 'react';

const place = 'draxel-meter';

/** The address of a meter that answers over the network, kept by this browser; empty where values are typed in. */
export function useMeter(): [string, (address: string) => void] {
  const [address, set] = useState(() => localStorage.getItem(place) ?? '');
  return [
    address,
    (to) => {
      set(to);
      if (to) {
        localStorage.setItem(place, to);
      } else {
        localStorage.removeItem(place);
      }
    },
  ];
}
