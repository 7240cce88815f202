import "reflect-metadata";
import { Type } from "class-transformer";
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from "class-validator";
import { BLOCK_NAMES, KIND_NAMES, type BlockKind, type EditionKind } from "#core/edition/blocks";
import { IsId } from "#contracts/id";
import { RUNG } from "#contracts/mark";

/**
 * Degrees of waves a picture shows of each count, from its own down, and whether alternates stand beside the preferred.
 */
export class SectionCountsDto {
  @IsInt()
  @Min(1)
  @Max(9)
  degrees!: number;

  @IsBoolean()
  alternates!: boolean;
}

/** What every block has: its kind, and an id of its own within the draft. */
export class BlockDto {
  @IsIn(Object.keys(BLOCK_NAMES), { message: "a block is of a kind there is none of" })
  kind!: BlockKind;

  @IsString()
  @Length(1, 40)
  id!: string;
}

export class WordsBlockDto extends BlockDto {
  /** A document of the editor; what readers may not be shown is taken out as it is stored. */
  @IsObject()
  words!: object;
}

/** What the desk said on a rung. */
export class RungSaidDto {
  @IsString()
  @Matches(RUNG)
  rung!: string;

  @IsString()
  @MaxLength(4_000)
  text!: string;
}

export class MarketBlockDto extends BlockDto {
  @IsString()
  @Length(1, 60)
  market!: string;

  @IsString()
  @Matches(RUNG)
  rung!: string;

  @IsArray()
  @ArrayMaxSize(10)
  @IsId({ each: true })
  scenarios!: string[];

  /** What the picture shows of the market's counts; all that the desk shows when it is not said. */
  @IsOptional()
  @IsObject()
  @ValidateNested()
  @Type(() => SectionCountsDto)
  counts?: SectionCountsDto;

  /** Studies that are drawn: those on the charts (""), or a look by its name. */
  @IsOptional()
  @IsString()
  @MaxLength(60)
  studies?: string;

  @IsOptional()
  @IsObject()
  words?: object;

  @IsOptional()
  @IsArray()
  @ArrayMaxSize(20)
  @ValidateNested({ each: true })
  @Type(() => RungSaidDto)
  rests?: RungSaidDto[];
}

export class SpokenStepDto {
  @IsString()
  @Matches(/^[0-9a-f]{64}$/, { message: "a recording is named by its digest" })
  sha256!: string;

  @IsNumber()
  @Min(0)
  @Max(600, { message: "a step is said in ten minutes at most" })
  seconds!: number;

  @IsString()
  @MaxLength(1_000)
  said!: string;
}

export class WalkStepDto {
  @IsString()
  @Matches(RUNG)
  rung!: string;

  @IsString()
  @MaxLength(1_000, { message: "a step of a walk says at most 1,000 characters" })
  text!: string;

  @IsOptional()
  @IsString()
  @MaxLength(4_000)
  rests?: string;

  /** The step said aloud. */
  @IsOptional()
  @IsObject()
  @ValidateNested()
  @Type(() => SpokenStepDto)
  voice?: SpokenStepDto;
}

export class WalkBlockDto extends BlockDto {
  @IsString()
  @Length(1, 60)
  market!: string;

  @IsArray()
  @ArrayMaxSize(8, { message: "a walk has at most 8 steps" })
  @ValidateNested({ each: true })
  @Type(() => WalkStepDto)
  steps!: WalkStepDto[];
}

export class CalendarBlockDto extends BlockDto {
  @IsIn([1, 7], { message: "a calendar is of a day or of seven" })
  days!: 1 | 7;
}

export class RiskBlockDto extends BlockDto {
  @IsString()
  @MaxLength(2_000, { message: "a risk notice has at most 2,000 characters" })
  text!: string;
}

/** Bytes of a step said aloud, at most. */
export const LARGEST_VOICE = 2 * 1024 * 1024;

/** What a reader asks, and an answer, have at most so many characters. */
export const LONGEST_QUESTION = 1_000;
export const LONGEST_ANSWER = 4_000;

export class QuestionBlockDto extends BlockDto {
  @IsString()
  @MaxLength(LONGEST_QUESTION, { message: `a question has at most ${LONGEST_QUESTION} characters` })
  asked!: string;

  @IsString()
  @MaxLength(LONGEST_ANSWER, { message: `an answer has at most ${LONGEST_ANSWER} characters` })
  answer!: string;
}

/** Blocks that the machine fills: there is nothing to be written in them. */
export class FilledBlockDto extends BlockDto {}

export class DraftDto {
  @IsInt()
  @Min(1)
  @Max(2_000_000_000)
  version!: number;

  @IsString()
  @MaxLength(200, { message: "a title has at most 200 characters" })
  title!: string;

  @IsIn(KIND_NAMES, { message: "an edition is of a kind there is none of" })
  kind!: EditionKind;

  @IsArray()
  @ArrayMaxSize(40, { message: "an edition has at most 40 blocks" })
  @ValidateNested({ each: true })
  @Type(() => BlockDto, {
    discriminator: {
      property: "kind",
      subTypes: [
        { value: WordsBlockDto, name: "words" },
        { value: MarketBlockDto, name: "market" },
        { value: WalkBlockDto, name: "walk" },
        { value: CalendarBlockDto, name: "calendar" },
        { value: RiskBlockDto, name: "risk" },
        { value: QuestionBlockDto, name: "question" },
        { value: FilledBlockDto, name: "recap" },
        { value: FilledBlockDto, name: "ranking" },
        { value: FilledBlockDto, name: "board" },
        { value: FilledBlockDto, name: "counts" },
        { value: FilledBlockDto, name: "areas" },
        { value: FilledBlockDto, name: "record" },
      ],
    },
    keepDiscriminatorProperty: true,
  })
  blocks!: (
    WordsBlockDto | MarketBlockDto | WalkBlockDto | CalendarBlockDto | RiskBlockDto | QuestionBlockDto | FilledBlockDto
  )[];
}
