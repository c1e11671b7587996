import { Modal, Segmented } from 'antd';
import { Fragment, useState } from 'react';
import { keysHere, struck, type KeyLine } from './keymap';
import { chooseLetters, lettersAre, type Letters } from './letters';

interface Props {
  /** The view of a job, by the last part of its address, and what keys do in it alone. */
  view: string;
  own: readonly KeyLine[];
  open: boolean;
  onClose: () => void;
}

const ways: { value: Letters; label: string }[] = [
  { value: 'plain', label: 'as they are' },
  { value: 'alt', label: 'with Alt' },
  { value: 'off', label: 'off' },
];

/** The keys that do something on the page as it is, and how letters are struck. */
export function KeysDialog({ view, own, open, onClose }: Props) {
  const [letters, choose] = useState(lettersAre);
  return (
    <Modal open={open} onCancel={onClose} footer={null} title="Keys of this page" width={560}>
      <table className="table keytable">
        <tbody>
          {open &&
            [...keysHere(view, own)].map(([group, lines]) => (
              <Fragment key={group}>
                <tr>
                  <th colSpan={2} scope="rowgroup">
                    {group}
                  </th>
                </tr>
                {lines.map((k) => (
                  <tr key={k.does}>
                    <td style={{ whiteSpace: 'nowrap' }}>
                      {k.keys.map((key) => (
                        <kbd key={key} style={{ marginRight: 4 }}>
                          {struck(key)}
                        </kbd>
                      ))}
                    </td>
                    <td>{k.does}</td>
                  </tr>
                ))}
              </Fragment>
            ))}
          <tr>
            <td>
              <kbd>Esc</kbd>
            </td>
            <td>back</td>
          </tr>
        </tbody>
      </table>
      <div className="bar" style={{ marginTop: 12 }}>
        Letters, digits and signs{' '}
        <Segmented<Letters>
          size="small"
          aria-label="how letters are struck"
          options={ways}
          value={letters}
          onChange={(to) => {
            chooseLetters(to);
            choose(to);
          }}
        />
        <span className="quiet grow">for you, in this browser</span>
        <a href="/licences.txt">licences</a>
      </div>
    </Modal>
  );
}
