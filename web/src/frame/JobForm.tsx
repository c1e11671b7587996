import { Button, Checkbox, Input, Modal, Select, type InputRef } from 'antd';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { explain, ProblemError } from '../api/client';
import { useCopyJob } from '../api/handover';
import { fileAddress, useCreateJob, useDeleteJob, useDescribe, useKinds } from '../api/hooks';
import type { JobRequest, JobView } from '../api/types.gen';
import { History } from './History';
import { KindQuestions } from './KindQuestions';
import { onEnter } from '../keys/onEnter';
import { FocusAt } from '../keys/FocusAt';
import { askFirst } from './notice';

type Draft = Pick<JobRequest, 'title' | 'donor' | 'chassis' | 'oneScheme'> & {
  kind?: JobRequest['kind'] | undefined;
};

const pictured = (job: JobView) =>
  job.photos.count === 0
    ? 'the whole job in one file'
    : `with ${job.photos.count} photographs, about ${(job.photos.bytes / 1_000_000).toFixed(1)} MB`;

/** Makes a job, or says anew what an existing one is called. */
export function JobForm({ job, onClose }: { job?: JobView; onClose: () => void }) {
  const [draft, setDraft] = useState<Draft>(job ?? { title: '', donor: '', chassis: '' });
  const [listed, list] = useState(false);
  const titleInput = useRef<InputRef>(null);
  const kinds = useKinds();
  const create = useCreateJob();
  const describe = useDescribe(job?.id ?? '');
  const remove = useDeleteJob();
  const copy = useCopyJob();
  const navigate = useNavigate();
  const error = create.error ?? describe.error ?? copy.error;
  const wrongField = error instanceof ProblemError ? error.problem.pointer : undefined;
  const { title, kind, donor, chassis } = draft;
  const save = () => {
    if (!kind) {
      return;
    }
    const said = { title, kind, donor, chassis, oneScheme: draft.oneScheme ?? false };
    if (job) {
      describe.mutate({ ...said, seen: job.revision }, { onSuccess: onClose });
    } else {
      create.mutate(said, { onSuccess: (done) => void navigate(`/jobs/${done.job}/gather`) });
    }
  };
  const confirmDelete = () =>
    askFirst({
      title: `Delete “${title}”?`,
      content:
        'It can be brought back for 30 days, from the list of jobs; after that only from its job file.',
      okText: 'Delete',
      onOk: async () => {
        await remove.mutateAsync(job?.id ?? '');
        void navigate('/');
      },
    });
  const next = () =>
    copy.mutate(
      { job: job?.id ?? '', title: `${title}, the next` },
      { onSuccess: (done) => void navigate(`/jobs/${done.job}`) },
    );
  const text = (field: 'title' | 'donor' | 'chassis', label: string, hint: string) => (
    <div className="field">
      <label htmlFor={field}>{label}</label>
      <Input
        id={field}
        value={draft[field]}
        placeholder={hint}
        status={wrongField === `/${field}` ? 'error' : undefined}
        onChange={(e) => setDraft({ ...draft, [field]: e.target.value })}
        onPressEnter={onEnter(save)}
        ref={field === 'title' ? titleInput : undefined}
      />
    </div>
  );
  return (
    <Modal
      open
      title={job ? 'The job' : 'New job'}
      onCancel={onClose}
      width={560}
      footer={
        <div className="bar">
          {job && (
            <Button href={fileAddress(job.id, 'file')} title={pictured(job)}>
              Save the job file
            </Button>
          )}
          {job && job.photos.count > 0 && (
            <Button href={`${fileAddress(job.id, 'file')}?pictures=no`}>without pictures</Button>
          )}
          {job && (
            <Button
              onClick={next}
              loading={copy.isPending}
              title="a new job with these tables, lists and decisions, each decision to be verified; nothing of what was done or measured"
            >
              Start the next from it
            </Button>
          )}
          {job && <Button onClick={confirmDelete}>Delete…</Button>}
          <span className="grow" />
          <Button
            type="primary"
            onClick={() => save()}
            disabled={!kind}
            title={kind ? undefined : 'Say first what is before you.'}
            loading={create.isPending || describe.isPending}
          >
            {job ? 'Keep' : 'Make the job'}
          </Button>
        </div>
      }
    >
      <div className="stack">
        {text('title', 'Title', 'what you call it in the workshop')}
        {!job && !listed && kinds.data && (
          <KindQuestions
            ask={kinds.data.ask}
            kinds={kinds.data.kinds}
            kind={kind}
            onKind={(k) => setDraft({ ...draft, kind: k })}
          />
        )}
        {!job && !listed && !kind && (
          <button
            type="button"
            className="plain quiet"
            style={{ alignSelf: 'flex-start' }}
            onClick={() => list(true)}
          >
            choose from the list of all kinds
          </button>
        )}
        {(job ?? listed) && (
          <div className="field">
            <label htmlFor="kind">Kind of job</label>
            <Select
              id="kind"
              style={{ width: '100%' }}
              value={kind}
              onChange={(k: NonNullable<Draft['kind']>) => setDraft({ ...draft, kind: k })}
              options={kinds.data?.kinds.map((k) => ({ value: k.id, label: k.name }))}
            />
            <div className="quiet">{kinds.data?.kinds.find((k) => k.id === kind)?.meaning}</div>
          </div>
        )}
        {text('donor', 'Donor', 'the vehicle or harness the engine comes from')}
        {text('chassis', 'Chassis', 'the vehicle or unit that it goes to')}
        <Checkbox
          checked={draft.oneScheme ?? false}
          onChange={(e) => setDraft({ ...draft, oneScheme: e.target.checked })}
        >
          Both pinouts number their circuits by one scheme: equal numbers count even where words are blank
        </Checkbox>
        {job && <History job={job.id} />}
        {error && (
          <div className="problem" role="alert">
            {explain(error)}
          </div>
        )}
      </div>
      <FocusAt field={titleInput} />
    </Modal>
  );
}
