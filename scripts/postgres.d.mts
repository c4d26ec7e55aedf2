export function startCluster(say?: (line: string) => void): Promise<string>;
