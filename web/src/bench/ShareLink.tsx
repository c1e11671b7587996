import { Modal } from 'antd';
import { fileAddress } from '../api/hooks';
import { useLink } from '../api/pin';

/** The address and QR code at which another device shows the same. */
export function ShareLink({ job, stage, onClose }: { job: string; stage: string; onClose: () => void }) {
  const link = useLink(job, stage);
  return (
    <Modal open title="Use another device" onCancel={onClose} footer={null} width={420}>
      {link.data?.address ? (
        <div style={{ textAlign: 'center' }}>
          <img
            src={fileAddress(job, `bench/qr.png?stage=${stage}`)}
            alt={`QR code of ${link.data.address}`}
            style={{ width: 260, imageRendering: 'pixelated' }}
          />
          <p className="mono" style={{ overflowWrap: 'anywhere' }}>
            {link.data.address}
          </p>
          <p className="quiet">On the same network. It asks for the passcode once.</p>
          {link.data.authority ? (
            <>
              <p>
                Once on that device: open <span className="mono">{link.data.authority}</span>, install what
                comes as a certificate to trust, and compare its SHA-256:
              </p>
              <p className="mono" style={{ overflowWrap: 'anywhere' }} data-testid="fingerprint">
                {link.data.fingerprint}
              </p>
              <p className="quiet">
                Then the bench can be put on its home screen, and read without the network.
              </p>
            </>
          ) : (
            !link.data.fingerprint && (
              <p className="quiet">
                It is not encrypted, and cannot be read there without the network: for that, start Draxel with
                --tls.
              </p>
            )
          )}
        </div>
      ) : (
        <p>{link.data?.why}</p>
      )}
    </Modal>
  );
}
