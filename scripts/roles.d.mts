export function letServerIn(ownerUrl: string): Promise<string>;
