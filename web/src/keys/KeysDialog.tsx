import { Modal } from 'antd';
import { keymap } from './keymap';

export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Modal open={open} onCancel={onClose} footer={null} title="Keys" width={520}>
      <table className="table">
        <tbody>
          {keymap.map((k) => (
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
        </tbody>
      </table>
    </Modal>
  );
}
