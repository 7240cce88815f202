import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from "@dnd-kit/core";
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { lazy, Suspense } from "react";
import { LONGEST_ANSWER, LONGEST_QUESTION } from "#contracts/draft";
import { BLOCK_NAMES, marketsOf, walksOf, type Block, type MarketBlock, type WalkBlock } from "#core/edition/blocks";
import { numbersPutIn } from "#core/edition/checks";
import { wordsOf, type Words } from "#core/edition/words";
import type { LevelLine } from "#core/marks/levels";
import type { SinceLast as Since } from "../../../server/publishing/sinceLast.ts";
import { FilledView, type Filled } from "../reader/FilledView.tsx";
import { BlockFrame } from "./blocks/BlockFrame.tsx";
import { DeskSays } from "./blocks/DeskSays.tsx";
import { MarketFields, type MarketChoice } from "./blocks/MarketFields.tsx";
import { SinceLast } from "./blocks/SinceLast.tsx";
import { WalkFields, type Argument } from "./blocks/WalkFields.tsx";
import { NumbersAtHand } from "./blocks/NumbersAtHand.tsx";
import type { ChipChoice } from "./blocks/chipChoice.ts";

/** Loaded where something is written. */
const WordsEditor = lazy(async () => ({ default: (await import("./blocks/WordsEditor.tsx")).WordsEditor }));

interface Props {
  blocks: readonly Block[];
  markets: readonly MarketChoice[];
  rungs: readonly string[];
  /** What the desk says of them as it stands: by the id of a block. */
  filled: Readonly<Record<string, Filled>>;
  levels: Readonly<Record<string, LevelLine[]>>;
  /** What ended and changed of a market since it was last written of: by the id of its block. */
  since: Readonly<Record<string, Since>>;
  chips: readonly ChipChoice[];
  /** By the number of a chart: those of the markets in their order, behind them the steps of walks. */
  pictureOf(chart: number): string | undefined;
  argumentOf: Readonly<Record<string, Argument>>;
  /** Where what is said aloud is stored. */
  voiceAddress: string;
  /** Goes up whenever words were changed other than by typing; `onTaken` says that they were. */
  taken: number;
  onTaken(): void;
  onChange(blocks: Block[]): void;
}

/** The blocks of an edition in their order, which is changed by dragging or by keys. */
export function BlockList({
  blocks,
  markets,
  rungs,
  filled,
  levels,
  since,
  chips,
  pictureOf,
  argumentOf,
  voiceAddress,
  taken,
  onTaken,
  onChange,
}: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = blocks.map(({ id }) => id);
  const replace = (block: Block) => onChange(blocks.map((one) => (one.id === block.id ? block : one)));
  const takeOut = (gone: string) => onChange(blocks.filter(({ id }) => id !== gone));
  const write = (words: Words, label: string, onWords: (words: Words) => void) => (
    <Suspense fallback={<Typography color="text.secondary">The editor is on its way.</Typography>}>
      <WordsEditor {...{ words, label, chips, taken }} onChange={onWords} />
    </Suspense>
  );
  const marketOf = (id: string) => markets.find(({ facts }) => facts.id === id);
  const marketFields = (block: MarketBlock, index: number) => {
    const market = marketOf(block.market);
    if (!market) return <Typography variant="body2">This market is no longer there: take the block out.</Typography>;
    return (
      <>
        {since[block.id] && (
          <SinceLast
            since={since[block.id]}
            isCalled={block.scenarios.length > 0}
            onTakeOut={() => takeOut(block.id)}
          />
        )}
        {write(block.words ?? wordsOf(""), `Words on ${market.facts.name}`, (words) => replace({ ...block, words }))}
        <NumbersAtHand market={market.facts.name} chips={chips.filter((chip) => chip.market === block.market)} />
        <DeskSays
          block={block}
          argument={argumentOf[block.market] ?? []}
          onTake={(rests) => {
            const said = wordsOf(rests.map(({ text }) => text).join("\n\n"));
            const own = chips.filter((chip) => chip.market === block.market);
            replace({ ...block, rests, words: numbersPutIn(said, own) });
            onTaken();
          }}
          onSeen={(rests) => replace({ ...block, rests })}
        />
        <MarketFields
          block={block}
          market={market}
          rungs={rungs}
          levels={levels[block.id]}
          picture={pictureOf(index)}
          onChange={(part) => replace({ ...block, ...part })}
        />
      </>
    );
  };
  const inside = (block: Block) => {
    switch (block.kind) {
      case "words":
        return write(block.words, "Words", (words) => replace({ ...block, words }));
      case "market":
        return marketFields(block, blocks.filter(({ kind }) => kind === "market").indexOf(block));
      case "walk":
        return (
          <WalkFields
            block={block}
            market={marketOf(block.market)?.facts.name ?? block.market}
            rungs={rungs}
            argument={argumentOf[block.market] ?? []}
            pictureOf={(step) => pictureOf(stepsBefore(blocks, block) + step)}
            voiceAddress={voiceAddress}
            onChange={(steps) => replace({ ...block, steps })}
          />
        );
      case "question":
        return (
          <>
            <TextField
              label="Asked"
              multiline
              value={block.asked}
              onChange={({ target: { value } }) => replace({ ...block, asked: value })}
              slotProps={{ htmlInput: { maxLength: LONGEST_QUESTION } }}
              sx={{ mb: 1.5 }}
            />
            <TextField
              label="Answer"
              multiline
              value={block.answer}
              onChange={({ target: { value } }) => replace({ ...block, answer: value })}
              slotProps={{ htmlInput: { maxLength: LONGEST_ANSWER } }}
            />
          </>
        );
      case "risk":
        return (
          <TextField
            label="Risk notice"
            multiline
            value={block.text}
            onChange={({ target: { value } }) => replace({ ...block, text: value })}
            slotProps={{ htmlInput: { maxLength: 2000 } }}
          />
        );
      case "calendar":
        return (
          <>
            <TextField
              select
              label="Of"
              value={block.days}
              onChange={({ target: { value } }) => replace({ ...block, days: Number(value) === 7 ? 7 : 1 })}
              sx={{ width: 140 }}
            >
              <MenuItem value={1}>the day</MenuItem>
              <MenuItem value={7}>seven days</MenuItem>
            </TextField>
            {seen(block.id)}
          </>
        );
      default:
        return seen(block.id);
    }
  };
  const seen = (id: string) =>
    filled[id] ? (
      <FilledView block={filled[id]} untitled />
    ) : (
      <Typography variant="body2" color="text.secondary">
        The desk fills it once it is saved.
      </Typography>
    );
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={({ active, over }) => {
        const [from, to] = [ids.indexOf(String(active.id)), ids.indexOf(String(over?.id))];
        if (from >= 0 && to >= 0 && from !== to) onChange(arrayMove([...blocks], from, to));
      }}
    >
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        {blocks.map((block) => (
          <BlockFrame
            key={block.id}
            id={block.id}
            name={
              "market" in block
                ? (marketOf(block.market)?.facts.name ?? block.market) + (block.kind === "walk" ? ", step by step" : "")
                : BLOCK_NAMES[block.kind]
            }
            onMove={(by) => {
              const to = ids.indexOf(block.id) + by;
              if (to >= 0 && to < blocks.length) onChange(arrayMove([...blocks], to - by, to));
            }}
            onTakeOut={() => takeOut(block.id)}
          >
            {inside(block)}
          </BlockFrame>
        ))}
      </SortableContext>
    </DndContext>
  );
}

/** The number of a walk's first chart. */
function stepsBefore(blocks: readonly Block[], walk: WalkBlock): number {
  const walks = walksOf(blocks);
  const before = walks.slice(0, walks.indexOf(walk));
  return before.reduce((sum, { steps }) => sum + steps.length, marketsOf(blocks).length);
}
