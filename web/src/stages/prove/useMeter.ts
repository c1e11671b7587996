import { useSyncExternalStore } from 'react';

type Device = 'meter' | 'unit' | 'rig';

const place = (d: Device) => `draxel-${d}`;
const listeners = new Set<() => void>();
const subscribe = (call: () => void) => {
  listeners.add(call);
  return () => listeners.delete(call);
};

/** The address of a device that answers over the network, kept by this browser; empty where there is none. */
export function useAddress(device: Device): [string, (address: string) => void] {
  const address = useSyncExternalStore(subscribe, () => localStorage.getItem(place(device)) ?? '');
  return [
    address,
    (to) => {
      if (to) {
        localStorage.setItem(place(device), to);
      } else {
        localStorage.removeItem(place(device));
      }
      listeners.forEach((call) => call());
    },
  ];
}

/** The address of a meter; empty where values are typed in. */
export const useMeter = () => useAddress('meter');
