import { message, Modal } from 'antd';
import { useEffect } from 'react';
import { hear } from './notice';

/** Where what is said in passing and what is asked appears: below the head, so that it covers no count of it. */
export function Noticing() {
  const [says, said] = message.useMessage({ duration: 4, top: 52 });
  const [asks, asked] = Modal.useModal();
  useEffect(() => {
    hear({ says, asks });
    return () => hear(undefined);
  }, [says, asks]);
  return (
    <>
      {said}
      {asked}
    </>
  );
}
