import { Modal } from 'antd';
import { useLocation } from 'react-router';
import { keysHere } from './keymap';

export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const view = useLocation().pathname.split('/')[3] ?? '';
  return (
    <Modal open={open} onCancel={onClose} footer={null} title="Keys of this page" width={520}>
      <table className="table">
        <tbody>
          {open &&
            keysHere(view).map((k) => (
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
    </Modal>
  );
}
