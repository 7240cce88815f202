import "reflect-metadata";
import { Type } from "class-transformer";
import { IsId } from "#contracts/id";
import type { CopyOf } from "#core/marks/equivalent";
import type { FoundFrom } from "#core/marks/foundFrom";
import type { Anchor } from "#core/marks/kind";
import { isPrice } from "#core/marks/price";
import { isInstant } from "#core/time/dates";
import {
  ArrayMaxSize,
  ArrayMinSize,
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
  registerDecorator,
} from "class-validator";

/**
 * A rung as an ISO 8601 duration of one part: up to a day in minutes or hours, 99 days, 52 weeks, 24 months, 10 years.
 * Longer ones say nothing of a market, and cost the more to lay out the further they reach.
 */
export const RUNG = new RegExp(
  `^P(${[
    "T([1-9]\\d{0,2}|1[0-3]\\d\\d|14[0-3]\\d|1440)M",
    "T([1-9]|1\\d|2[0-4])H",
    "[1-9]\\d?D",
    "([1-9]|[1-4]\\d|5[0-2])W",
    "([1-9]|1\\d|2[0-4])M",
    "([1-9]|10)Y",
  ].join("|")})$`,
);

/** Bytes of the largest file of marks taken in. */
export const LARGEST_MARKS_FILE = 8 * 1024 * 1024;

/** Anchors are checked in one go: a request may hold thousands of them, and a class for each would take its time. */
function AreAnchors() {
  const isAnchor = (one: unknown) =>
    typeof one === "object" &&
    one !== null &&
    Object.keys(one).length === 2 &&
    isInstant((one as Anchor).time) &&
    isPrice((one as Anchor).price);
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: "areAnchors",
      target: target.constructor,
      propertyName,
      validator: {
        validate: (value) => Array.isArray(value) && value.every(isAnchor),
        defaultMessage: () => "an anchor is a date and a price",
      },
    });
}

export class MarkDto {
  @IsId()
  id!: string;

  @IsString()
  @Length(1, 30)
  kind!: string;

  @IsString()
  @Matches(RUNG)
  rung!: string;

  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(400)
  @AreAnchors()
  anchors!: Anchor[];

  @IsObject()
  props!: Record<string, unknown>;

  @IsString()
  @MaxLength(2000, { message: "a note has at most 2,000 characters" })
  note!: string;

  @IsOptional()
  @IsBoolean()
  locked?: boolean;

  @IsOptional()
  @IsBoolean()
  hidden?: boolean;

  @IsOptional()
  @IsObject()
  copied?: CopyOf;

  @IsOptional()
  @IsObject()
  found?: FoundFrom;
}

/** One change of a mark: `set` places it anew or replaces what it says; `remove` takes it away. */
export class StepDto {
  @IsId()
  id!: string;

  @IsIn(["set", "remove"])
  step!: "set" | "remove";

  /** Version the change was made on; 0 when the mark is new. */
  @IsInt()
  @Min(0)
  @Max(2_000_000_000)
  version!: number;

  @ValidateNested()
  @Type(() => MarkDto)
  mark!: MarkDto;
}

export class StepsDto {
  /** The past moment the desk stands at; none at present. */
  @IsOptional()
  @IsNumber()
  @Min(-8.64e15)
  @Max(8.64e15)
  at?: number;

  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @ValidateNested({ each: true })
  @Type(() => StepDto)
  steps!: StepDto[];
}
