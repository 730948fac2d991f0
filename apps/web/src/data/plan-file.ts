import { MOST_UPLOAD_BYTES, openPlanFile as openPlanFileCall, planFileAnswer, urlOf } from '@sprig/contracts';
import { CallFailure, send } from './call.ts';

/** Opens a plan file as a new plan; answers its number. */
export async function openPlanFile(file: File): Promise<number> {
  if (file.size > MOST_UPLOAD_BYTES)
    throw new CallFailure({
      code: 'too-large',
      message: `A plan file may weigh ${MOST_UPLOAD_BYTES / 1_000_000} MB.`,
    });
  const answer = await send(urlOf(openPlanFileCall), {
    method: 'POST',
    body: file,
    headers: { 'content-type': 'application/octet-stream' },
  });
  return planFileAnswer.parse(await answer.json()).id;
}
