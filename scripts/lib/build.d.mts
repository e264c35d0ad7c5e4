export function ensureBuild(root: string): Promise<void>;
