/** What a page leaves behind is sent on up to 64 KiB in all (Fetch standard, keepalive); some may be on its way. */
const MOST_BYTES = 48 * 1024;

/** Whether a body is still sent on when its page goes away meanwhile. */
export const outlasts = (body: unknown): boolean => new Blob([JSON.stringify(body)]).size <= MOST_BYTES;
