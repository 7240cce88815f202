import type { ChannelProps, ChannelState } from "#core/marks/channel";
import { asChannel } from "#core/marks/measuring/swingChannel";
import { drawChannel } from "../channel.ts";
import type { Draw } from "../drawing.ts";

/** As the channel it is, the line through its first and third swing. */
export const drawSwingChannel: Draw<ChannelProps, ChannelState> = (mark, life, context) =>
  drawChannel(asChannel(mark), life, context);
