import { useState } from 'react';
import { setWhoIsWorking, whoIsWorking } from '../api/client';
import { markLetters } from '../keys/letters';
import { later } from './later';
import { Opened } from './Opened';

const WhoDialog = later(async () => (await import('./WhoDialog')).WhoDialog);

/** Who is working: decisions and ticks carry this name. */
export function Who() {
  const [name, setName] = useState(whoIsWorking);
  const [asking, ask] = useState(false);
  return (
    <>
      <button className="plain" onClick={() => ask(true)} title="who is working: decisions carry this name">
        {name || 'who are you?'}
      </button>
      <Opened open={asking}>
        <WhoDialog
          open={asking}
          name={name}
          onKeep={(next) => {
            setWhoIsWorking(next);
            setName(next);
            markLetters(); // keys are as this person has chosen
            ask(false);
          }}
          onClose={() => ask(false)}
        />
      </Opened>
    </>
  );
}
