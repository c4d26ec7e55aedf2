export const FLAGS: readonly string[];
export const ENVIRONMENT: Readonly<Record<string, string>>;
