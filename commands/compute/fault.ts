/** A fault of the request, told to the caller in one sentence. */
export class RequestFault extends Error {}
