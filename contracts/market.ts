import "reflect-metadata";
import { Type } from "class-transformer";
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsPositive,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from "class-validator";
import { PriceGridDto } from "#contracts/grid";
import { RUNG } from "#contracts/mark";

/** Bytes of the largest file taken in: about two million rows. */
export const LARGEST_FILE = 128 * 1024 * 1024;

/** A unit stands at the head of tables, which spreadsheets read: no sign with which a formula begins, no line break. */
const UNIT = /^[\p{L}\p{N}%\u00b0\u00a2-\u00a5\u20ac][\p{L}\p{N} ./%]*$/u;
/** Names are one line. */
export const ONE_LINE = /^[^\p{Cc}\u2028\u2029]*$/u;

export const MARKET_KINDS = ["currency", "commodity", "index", "share", "other"] as const;

/** What the analyst confirms before a file of bars becomes, or extends, a market. */
export class ConfirmImportDto extends PriceGridDto {
  /** An existing market's id, or empty for a new one. */
  @IsString()
  @MaxLength(60)
  market!: string;

  @IsString()
  @Length(1, 80, { message: "a market has a name of 1 to 80 characters" })
  @Matches(ONE_LINE, { message: "a name is one line" })
  name!: string;

  @IsIn(MARKET_KINDS)
  kind!: (typeof MARKET_KINDS)[number];

  @IsString()
  @Matches(RUNG, { message: "a timeframe is written like PT1M or P1D" })
  base!: string;

  @IsString()
  @MaxLength(60)
  zone!: string;

  @IsOptional()
  @IsIn(["dmy", "mdy"])
  order?: "dmy" | "mdy";

  /** What "38,250" is in a file that leaves it open. */
  @IsOptional()
  @IsIn(["decimals", "thousands"])
  numbers?: "decimals" | "thousands";

  /** Whether prices are taken as the file's adjusted close has them. */
  @IsOptional()
  @IsBoolean()
  isAdjusted?: boolean;

  /** Which column is which, where it was said by hand: "time:1,open:3". */
  @IsOptional()
  @IsString()
  @MaxLength(200)
  columns?: string;

  /** "refuse" unless the analyst agreed to leave exactly the listed rows out. */
  @IsIn(["refuse", "leaveOut"])
  badRows!: "refuse" | "leaveOut";

  /** The hours of a new market: those its bars show, or all of all days. */
  @IsOptional()
  @IsIn(["shown", "all"])
  hours?: "shown" | "all";

  /** Which stands where the file and the store differ; "ask" until the analyst has said. */
  @IsIn(["ask", "stored", "file"])
  differing!: "ask" | "stored" | "file";
}

const CLOCK = /^([01]\d|2[0-3]):[0-5]\d$|^24:00$/;
const DATE = /^\d{4}-\d{2}-\d{2}$/;

export class SessionDto {
  /** ISO weekdays of the trading dates, 1 Monday to 7. */
  @IsArray()
  @IsInt({ each: true })
  @Min(1, { each: true })
  @Max(7, { each: true })
  days!: number[];

  @Matches(CLOCK, { message: "a time is written HH:MM" })
  open!: string;

  @Matches(CLOCK, { message: "a time is written HH:MM" })
  close!: string;

  @IsBoolean()
  opensDayBefore!: boolean;

  @IsIn(["regular", "overnight"])
  kind!: "regular" | "overnight";
}

/** Dates that are taken for holidays. */
export class HolidaysDto {
  @IsArray()
  @Matches(DATE, { each: true, message: "a date is written YYYY-MM-DD" })
  @ArrayMaxSize(2000)
  dates!: string[];
}

export class HalfDayDto {
  @Matches(DATE, { message: "a date is written YYYY-MM-DD" })
  date!: string;

  @Matches(CLOCK, { message: "a time is written HH:MM" })
  close!: string;
}

/** Which news touch a market. */
export class TiesDto {
  @IsArray()
  @ArrayMaxSize(20)
  @IsString({ each: true })
  @Length(1, 60, { each: true, message: "a currency has a name of at most 60 characters" })
  currencies!: string[];

  @IsString()
  @MaxLength(60)
  region!: string;

  @IsString()
  @MaxLength(60)
  sector!: string;
}

/** What is known of a market besides its bars: how its prices are written, and when it trades. */
export class MarketDto extends PriceGridDto {
  @IsString()
  @Length(1, 80, { message: "a market has a name of 1 to 80 characters" })
  @Matches(ONE_LINE, { message: "a name is one line" })
  name!: string;

  @IsString()
  @Length(1, 20)
  kind!: string;

  @IsNumber({}, { message: "the unit of distance is a number above zero" })
  @IsPositive({ message: "the unit of distance is a number above zero" })
  @Max(1e9)
  pip!: number;

  @IsString()
  @Length(1, 12, { message: "the unit of distance has a name of 1 to 12 characters" })
  @Matches(UNIT, { message: "the unit of distance is named in letters, digits and spaces" })
  pipName!: string;

  @IsString()
  @MaxLength(60)
  zone!: string;

  @ValidateNested({ each: true })
  @Type(() => SessionDto)
  @ArrayMaxSize(20)
  sessions!: SessionDto[];

  @Matches(DATE, { each: true, message: "a date is written YYYY-MM-DD" })
  @ArrayMaxSize(2000)
  holidays!: string[];

  @ValidateNested({ each: true })
  @Type(() => HalfDayDto)
  @ArrayMaxSize(2000)
  halfDays!: HalfDayDto[];

  /** Left as they are when they are not said. */
  @IsOptional()
  @ValidateNested()
  @Type(() => TiesDto)
  ties?: TiesDto;
}
