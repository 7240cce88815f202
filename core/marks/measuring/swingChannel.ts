import { channel, type ChannelProps, type ChannelState } from "#core/marks/channel";
import type { Mark, MarkKind } from "#core/marks/kind";
import { inOrder, outOfOrder } from "#core/marks/measuring/lines";

/** The line through the first and the third swing, and its parallel through the second: as the channel takes them. */
export function asChannel(mark: Mark<ChannelProps>): Mark<ChannelProps> {
  const [first, second, third] = inOrder(mark.anchors);
  return { ...mark, anchors: [first, third, second] };
}

/** A channel from three swings that follow each other: it is followed as any channel is. */
export const swingChannel: MarkKind<ChannelProps, ChannelState> = {
  ...channel,
  kind: "swingChannel",
  title: "Channel from three swings",
  onExtremes: true,
  check(mark) {
    const [first, second, third] = mark.anchors;
    const zigzag = (second.price - first.price) * (second.price - third.price) > 0;
    return [
      ...outOfOrder(mark.anchors),
      ...(zigzag ? [] : [{ sentence: "The second swing lies above both others, or below both.", anchor: 1 }]),
    ];
  },
  start: (mark, context) => channel.start(asChannel(mark), context),
  advance: (mark, state, bar, emit) => channel.advance(asChannel(mark), state, bar, emit),
  prices: (mark, life) => channel.prices(asChannel(mark), life),
  say: (mark, life, market) => channel.say(asChannel(mark), life, market),
};
