import "reflect-metadata";
import { IsIn, IsInt, IsNumber, IsOptional, IsPositive, IsString, Length, Matches, Max, MaxLength, Min } from "class-validator";
import { RUNG } from "#contracts/mark";

/** Bytes of the largest file taken in: about two million rows. */
export const LARGEST_FILE = 128 * 1024 * 1024;

export const MARKET_KINDS = ["currency", "commodity", "index", "share", "other"] as const;

/** What the analyst confirms before a file of bars becomes, or extends, a market. */
export class ConfirmImportDto {
  /** An existing market's id, or empty for a new one. */
  @IsString()
  @MaxLength(60)
  market!: string;

  @IsString()
  @Length(1, 80, { message: "a market has a name of 1 to 80 characters" })
  name!: string;

  @IsIn(MARKET_KINDS)
  kind!: (typeof MARKET_KINDS)[number];

  @IsString()
  @Matches(RUNG, { message: "a timeframe is written like PT1M or P1D" })
  base!: string;

  @IsString()
  @MaxLength(60)
  zone!: string;

  @IsNumber({}, { message: "the tick is a number above zero" })
  @IsPositive({ message: "the tick is a number above zero" })
  @Max(1e9)
  tick!: number;

  @IsInt()
  @Min(0)
  @Max(10)
  decimals!: number;

  @IsOptional()
  @IsIn(["dmy", "mdy"])
  order?: "dmy" | "mdy";

  /** "refuse" unless the analyst agreed to leave exactly the listed rows out. */
  @IsIn(["refuse", "leaveOut"])
  badRows!: "refuse" | "leaveOut";

  /** Which stands where the file and the store differ; "ask" until the analyst has said. */
  @IsIn(["ask", "stored", "file"])
  differing!: "ask" | "stored" | "file";
}
