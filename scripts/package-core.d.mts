/** Makes the package anew in a folder. @returns its `package.json`, parsed */
export function packCore(target: string): Promise<Record<string, unknown>>;
