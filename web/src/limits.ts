/** The largest file that is taken in, bytes. */
export const MAX_FILE_BYTES = 256 * 1024 * 1024;
