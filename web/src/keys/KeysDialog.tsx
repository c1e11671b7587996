import { Modal } from 'antd';
import { keysHere, type KeyLine } from './keymap';

interface Props {
  /** The view of a job, by the last part of its address, and what keys do in it alone. */
  view: string;
  own: readonly KeyLine[];
  open: boolean;
  onClose: () => void;
}

export function KeysDialog({ view, own, open, onClose }: Props) {
  return (
    <Modal open={open} onCancel={onClose} footer={null} title="Keys of this page" width={520}>
      <table className="table">
        <tbody>
          {open &&
            keysHere(view, own).map((k) => (
              <tr key={k.does}>
                <td style={{ whiteSpace: 'nowrap' }}>
                  {k.keys.map((key) => (
                    <kbd key={key} style={{ marginRight: 4 }}>
                      {key}
                    </kbd>
                  ))}
                </td>
                <td>{k.does}</td>
              </tr>
            ))}
          <tr>
            <td>
              <kbd>Esc</kbd>
            </td>
            <td>back</td>
          </tr>
        </tbody>
      </table>
      <p className="quiet">
        <a href="/licences.txt">Licences</a> of what is in this program
      </p>
    </Modal>
  );
}
