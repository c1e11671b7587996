import { Button, Progress } from 'antd';
import { useState } from 'react';
import { explain, request, takeFile } from '../../api/client';
import { jobPath } from '../../api/hooks';
import type { Making } from '../../api/types.gen';
import { notice } from '../../frame/notice';

/** How often is asked how far it has come, ms. */
const often = 250;

interface Props {
  job: string;
  path: string;
  name: string;
  word: string;
}

/** A file that takes a while to be made: how far it has come is shown, then it is kept by the browser. */
export function MakeFile({ job, path, name, word }: Props) {
  const [made, tell] = useState<Making | undefined>();
  const make = async () => {
    tell({ done: 0, of: 0 });
    const asking = setInterval(() => {
      request<Making>('GET', `${jobPath(job)}/handover/making`)
        .then((m) => tell((was) => (was ? m : was)))
        .catch(() => undefined); // the file itself says what is wrong
    }, often);
    try {
      await takeFile(`${jobPath(job)}/${path}`, name);
    } catch (e) {
      notice.warning(explain(e));
    } finally {
      clearInterval(asking);
      tell(undefined);
    }
  };
  return (
    <span className="making">
      <Button size="small" onClick={() => void make()} disabled={made !== undefined}>
        {word}
      </Button>
      {made && (
        <Progress
          aria-label={`${word} is being made`}
          percent={made.of > 0 ? Math.round((100 * made.done) / made.of) : 0}
          size="small"
          style={{ width: 120 }}
        />
      )}
    </span>
  );
}
