/** A file whose address is wanted, not its contents. */
declare module '*?url' {
  const url: string;
  export default url;
}
