import { useEffect } from 'react';

/**
 * Keeps the screen from going dark. Browsers give a lock for it on secure pages alone; over plain HTTP on the workshop's
 * network a video of nothing, which a browser does not let the screen sleep on, does the same.
 */
export function useAwake() {
  useEffect(() => {
    if ('wakeLock' in navigator) {
      return lock();
    }
    return play();
  }, []);
}

function lock(): () => void {
  let held: WakeLockSentinel | undefined;
  let over = false;
  const take = () => {
    if (document.visibilityState === 'visible') {
      navigator.wakeLock.request('screen').then(
        (s) => {
          held = s;
          if (over) {
            void s.release();
          }
        },
        () => undefined, // the battery is low, or the page is hidden: the screen may sleep
      );
    }
  };
  take();
  document.addEventListener('visibilitychange', take);
  return () => {
    over = true;
    document.removeEventListener('visibilitychange', take);
    void held?.release();
  };
}

function play(): () => void {
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = 2;
  const paint = canvas.getContext('2d');
  const video = document.createElement('video');
  video.muted = true;
  video.playsInline = true;
  video.srcObject = canvas.captureStream(1);
  const timer = setInterval(() => paint?.fillRect(0, 0, 1, 1), 1000);
  const start = () => {
    video.play().catch(() => undefined); // a browser that wants a touch first gets one soon
  };
  start();
  document.addEventListener('pointerdown', start, { once: true });
  return () => {
    clearInterval(timer);
    document.removeEventListener('pointerdown', start);
    video.pause();
  };
}
