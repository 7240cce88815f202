import "reflect-metadata";
import {
  ArrayMaxSize,
  ArrayUnique,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
} from "class-validator";
import { KIND_NAMES, type EditionKind } from "#core/edition/blocks";
import { NEXT_CLOSE } from "#core/readers/wait";
import { PARTS, type EditionPart } from "#core/edition/parts";
import { ONE_LINE } from "#contracts/market";

/** Hours a plan may have its readers wait: a month. */
export const LONGEST_WAIT = 720;

/** What readers on a plan are shown, and when. */
export class PlanDto {
  @IsString()
  @Length(1, 60, { message: "a plan's name has 1 to 60 characters" })
  @Matches(ONE_LINE, { message: "a name is one line" })
  name!: string;

  @IsArray()
  @ArrayMaxSize(PARTS.length)
  @ArrayUnique({ message: "a part is named twice" })
  @IsIn(PARTS, { each: true, message: "there is no such part of an edition" })
  parts!: EditionPart[];

  @IsArray()
  @ArrayMaxSize(KIND_NAMES.length)
  @ArrayUnique({ message: "a kind is named twice" })
  @IsIn(KIND_NAMES, { each: true, message: "there is no such kind of edition" })
  kinds!: EditionKind[];

  /** Hours, or NEXT_CLOSE. */
  @IsInt({ message: "the wait is a whole number of hours" })
  @Min(NEXT_CLOSE, { message: "the wait cannot be negative" })
  @Max(LONGEST_WAIT, { message: `the wait has at most ${LONGEST_WAIT} hours` })
  wait!: number;

  /** Whether anybody may join on it. */
  @IsOptional()
  @IsBoolean()
  open?: boolean;

  /** What it costs, in words; empty where it is not for sale. */
  @IsOptional()
  @IsString()
  @MaxLength(60, { message: "a price has at most 60 characters" })
  @Matches(/^[^\r\n]*$/, { message: "a price is one line" })
  price?: string;

  @IsInt()
  @Min(0)
  version!: number;
}
