/** The name of a file without the folders above it; paths have `/`. */
export const baseName = (path: string): string => path.slice(path.lastIndexOf('/') + 1);
