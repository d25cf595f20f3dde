import { handler } from '@/http/handler';
import { eventStream } from '@/http/eventStream';

/** What happens, as Server-Sent Events (WHATWG HTML, section 9.2), for as long as the page listens. */
export const GET = handler(async (request) => eventStream(request.signal));
