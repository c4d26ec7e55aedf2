import { Sheet } from '../kit/Sheet';
import { KEY_SHEET } from './useKeys';

/** Which keys do what. */
export default function KeySheet({ onClose }: { onClose: () => void }) {
  return (
    <Sheet
      open
      onClose={onClose}
      title="Keys"
      describe="A wedge scanner works everywhere, wherever the cursor is."
    >
      <dl>
        {KEY_SHEET.map(({ keys, does }) => (
          <div key={keys} className="ruled flex gap-4 py-1.5">
            <dt className="w-28 font-mono font-bold">{keys}</dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </Sheet>
  );
}
