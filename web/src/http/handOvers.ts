import 'server-only';
import { assetInfo, listHandOvers, Photograph, Shoot, type HandOverOptions, type JobState } from '@umbo/data';
import { db } from './server';

export interface HandOverSummary {
  id: number;
  photographId: number;
  photograph: string;
  shoot: string;
  width: number;
  height: number;
  state: JobState;
  progress: number;
  error: string | null;
  options: HandOverOptions;
  bytes: number | null;
  createdAt: string;
}

/** The hand-overs as the interface shows them, newest first. */
export async function describeHandOvers(): Promise<HandOverSummary[]> {
  const jobs = await listHandOvers();
  const photographs = new Map((await Photograph.findAll({ where: { id: jobs.map((job) => job.photographId) } })).map((p) => [p.id, p]));
  const shoots = new Map((await Shoot.findAll()).map((shoot) => [shoot.id, shoot.name]));
  return Promise.all(
    jobs.map(async (job) => {
      const photograph = photographs.get(job.photographId)!;
      return {
        id: job.id,
        photographId: job.photographId,
        photograph: photograph.name,
        shoot: shoots.get(photograph.shootId)!,
        width: photograph.width,
        height: photograph.height,
        state: job.state,
        progress: job.progress,
        error: job.error,
        options: JSON.parse(job.options) as HandOverOptions,
        bytes: job.assetId === null ? null : (await assetInfo(db(), job.assetId)).bytes,
        createdAt: job.createdAt.toISOString(),
      };
    }),
  );
}
