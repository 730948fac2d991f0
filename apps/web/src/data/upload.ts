import { uploadAnswer, uploadList, urlOf } from '@sprig/contracts';
import { send } from './call.ts';

/** Sends a file to the plan's server, to be read there; answers the upload's number. */
export async function uploadTo(plan: number, body: Blob): Promise<string> {
  const kept = await send(urlOf(uploadList, { params: { plan } }), {
    method: 'POST',
    body,
    headers: { 'content-type': 'application/octet-stream' },
  });
  return uploadAnswer.parse(await kept.json()).upload;
}
