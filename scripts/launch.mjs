// How a server is started, by npm start, by the demo and where its speed and memory are measured. deploy/ says the same in its own words.

/** Stack traces name the sources; and a server at rest keeps no sixteen megabytes for what it makes and forgets, with no work slower. */
export const FLAGS = ['--enable-source-maps', '--max-semi-space-size=8'];

/**
 * The C library is told to take what is large from the system piece by piece and to give it back. Of its own accord it begins to take it
 * from one heap, which never shrinks: after half a million requests 77 MB of 1,515 were in use.
 */
export const ENVIRONMENT = { MALLOC_MMAP_THRESHOLD_: '131072' };
