/** What is in a text of base64. */
export function bytesOf(base64: string): Uint8Array<ArrayBuffer> {
  const text = atob(base64);
  const bytes = new Uint8Array(text.length);
  // Ten times as fast as an iterator, beside a page that is being used.
  for (let i = 0; i < text.length; i++) bytes[i] = text.charCodeAt(i);
  return bytes;
}

/** What the register packed: JSON, raw deflate. */
export async function unpacked<What>(bytes: Uint8Array<ArrayBuffer>): Promise<What> {
  const { readable, writable } = new DecompressionStream('deflate-raw');
  // Written by hand, since a blob's own stream takes three times as long. What is wrong with the bytes is told to whoever reads.
  const writer = writable.getWriter();
  void Promise.all([writer.write(bytes), writer.close()]).catch(() => undefined);
  // Read as a text first: a response reads its own JSON half as fast.
  return JSON.parse(await new Response(readable).text()) as What;
}
