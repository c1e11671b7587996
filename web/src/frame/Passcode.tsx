import { useQueryClient } from '@tanstack/react-query';
import { Button, Input, type InputRef } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { explain, request } from '../api/client';
import type { Done } from '../api/types.gen';

/** Asks a device that comes from the network for the passcode. */
export function Passcode({ onIn }: { onIn: () => void }) {
  const [code, setCode] = useState('');
  const [problem, setProblem] = useState('');
  const input = useRef<InputRef>(null);
  const client = useQueryClient();
  useEffect(() => input.current?.focus(), []);
  const give = () => {
    request<Done>('POST', '/pass', { passcode: code }).then(
      () => {
        onIn();
        void client.invalidateQueries();
      },
      (e: unknown) => {
        setProblem(explain(e));
        setCode('');
        input.current?.focus();
      },
    );
  };
  return (
    <main className="empty passcode">
      <h1>Draxel</h1>
      <p>This device has to give the passcode first. It is the one that Draxel was started with.</p>
      <div className="bar">
        <Input.Password
          ref={input}
          className="grow"
          size="large"
          aria-label="passcode"
          autoComplete="off"
          value={code}
          onChange={(e) => setCode(e.target.value)}
          onKeyDown={(e) => e.key === 'Enter' && give()}
        />
        <Button size="large" type="primary" disabled={!code} onClick={give}>
          Let me in
        </Button>
      </div>
      {problem && (
        <div className="problem" role="alert" style={{ marginTop: 12 }}>
          {problem}
        </div>
      )}
    </main>
  );
}
