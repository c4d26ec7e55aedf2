import { Camera } from 'lucide-react';
import { Suspense, useState } from 'react';
import { Button } from '../../kit/Button';
import { Loading } from '../../kit/Message';
import { Sheet } from '../../kit/Sheet';
import { lazyPart } from '../../kit/lazyPart';

const CameraScan = lazyPart(() => import('./CameraScan'));

/** Opens the camera as a scanner, for hands without one. */
export function CameraButton({
  onScan,
  once = false,
  className,
}: {
  onScan: (scanned: string) => void;
  /** Whether the first scan is all that is wanted. */
  once?: boolean;
  className?: string;
}) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button className={className} onClick={() => setOpen(true)}>
        <Camera size={18} aria-hidden="true" />
        Camera
      </Button>
      {open && (
        <Sheet open onClose={() => setOpen(false)} title="Scan with the camera">
          <Suspense fallback={<Loading what="the camera" />}>
            <CameraScan
              onClose={() => setOpen(false)}
              onScan={(scanned) => {
                if (once) setOpen(false);
                onScan(scanned);
              }}
            />
          </Suspense>
        </Sheet>
      )}
    </>
  );
}
