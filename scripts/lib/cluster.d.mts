export interface Cluster {
  url(database: string): string;
  stop(): Promise<void>;
  fresh: boolean;
  port: number;
}
export function startCluster(
  folder: string,
  o: { port: number; throwAway?: boolean; settings?: string[] },
): Promise<Cluster>;
export function ensureDatabase(cluster: Cluster, name: string): Promise<void>;
export function freePort(from: number): Promise<number>;
export function removeCluster(folder: string): void;
