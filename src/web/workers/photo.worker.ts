/** A picture made small enough to keep, off the page's own thread: a large one takes seconds to unfold. */

const LONGEST_PX = 1_600;
const QUALITY = 0.85;

self.onmessage = ({ data, ports }: MessageEvent<Blob>) => {
  void reduced(data)
    .catch(() => null)
    .then((picture) => ports[0]?.postMessage(picture));
};

/** The picture upright, at most so long, as a JPEG of its own; what came along in the file stays behind. */
async function reduced(picture: Blob): Promise<Blob> {
  const bitmap = await createImageBitmap(picture, { imageOrientation: 'from-image' });
  const scale = Math.min(1, LONGEST_PX / Math.max(bitmap.width, bitmap.height));
  const canvas = new OffscreenCanvas(
    Math.max(1, Math.round(bitmap.width * scale)),
    Math.max(1, Math.round(bitmap.height * scale)),
  );
  canvas.getContext('2d')!.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  bitmap.close();
  return canvas.convertToBlob({ type: 'image/jpeg', quality: QUALITY });
}
