import { findMaskPicture } from '@umbo/data';
import { handler, number } from '@/http/handler';
import { sendPixels } from '@/http/pixels';

export const GET = handler<{ id: string }>(async (request, { id }) => sendPixels(request, await findMaskPicture(number(id)), 'mask'));
