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
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from "class-validator";
import { RUNG } from "#contracts/mark";
import { VERDICTS, type Verdict } from "#core/round/verdict";

const MOST_MARKETS = 500;
const LATEST = 8e15;

/** A list of markets that is walked as one. */
export class SaveListDto {
  /** Empty for a new one. */
  @IsString()
  @Length(0, 36)
  id!: string;

  @IsString()
  @Length(1, 60, { message: "a list has a name of 1 to 60 characters" })
  name!: string;

  @IsArray()
  @ArrayMaxSize(MOST_MARKETS)
  @IsString({ each: true })
  @Length(1, 60, { each: true })
  markets!: string[];

  @IsBoolean()
  rare!: boolean;
}

/** One thing said in a round: a look at a rung, a verdict on a market, or that the round is over. */
export class RoundStepDto {
  @IsIn(["look", "verdict", "end"])
  step!: "look" | "verdict" | "end";

  @IsOptional()
  @IsString()
  @Length(1, 60)
  market?: string;

  @IsOptional()
  @Matches(RUNG)
  rung?: string;

  /** Market time of a look; never later than the market's clock. */
  @IsOptional()
  @IsNumber()
  @Min(0)
  @Max(LATEST)
  at?: number;

  @IsOptional()
  @IsIn(VERDICTS)
  verdict?: Verdict;

  @IsOptional()
  @IsString()
  @MaxLength(500, { message: "a remark has at most 500 characters" })
  remark?: string;

  /** Close of the unfinished bar the verdict was said on. */
  @IsOptional()
  @IsNumber()
  @Min(0)
  @Max(LATEST)
  asksAt?: number;

  @IsOptional()
  @IsString()
  @MaxLength(4000, { message: "a summary has at most 4,000 characters" })
  summary?: string;

  @IsOptional()
  @IsInt()
  @Min(0)
  @Max(1_000_000)
  stops?: number;

  @IsOptional()
  @IsInt()
  @Min(0)
  @Max(1_000_000)
  looked?: number;
}

export class RoundStepsDto {
  @IsString()
  @Length(0, 36)
  list!: string;

  @IsArray()
  @ArrayMaxSize(500)
  @ValidateNested({ each: true })
  @Type(() => RoundStepDto)
  steps!: RoundStepDto[];
}
