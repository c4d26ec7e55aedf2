export function startCluster(say?: (line: string) => void): Promise<string>;
export function findBinaries(): string | null;
