import "reflect-metadata";
import { Type } from "class-transformer";
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
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
import { IsId } from "#contracts/id";
import { RUNG } from "#contracts/mark";

const aPrice = { message: "a price is a number above zero" };

class TriggerDto {
  @IsIn(["closeAbove", "closeBelow"])
  event!: "closeAbove" | "closeBelow";

  @IsNumber({}, aPrice)
  @IsPositive(aPrice)
  @Max(1e12)
  price!: number;

  @IsString()
  @Matches(RUNG)
  timeframe!: string;
}

class EntryDto {
  @IsIn(["market", "limit", "stop"])
  order!: "market" | "limit" | "stop";

  @IsNumber({}, aPrice)
  @IsPositive(aPrice)
  @Max(1e12)
  price!: number;
}

class TargetDto {
  @IsNumber({}, aPrice)
  @IsPositive(aPrice)
  @Max(1e12)
  price!: number;

  @IsNumber()
  @Min(0.01)
  @Max(1)
  share!: number;
}

export class ScenarioDto {
  @IsId()
  id!: string;

  @IsString()
  @Length(1, 80, { message: "a title has 1 to 80 characters" })
  title!: string;

  @IsString()
  @MaxLength(1000, { message: "a premise has at most 1,000 characters" })
  premise!: string;

  @IsIn(["long", "short"])
  direction!: "long" | "short";

  @IsObject()
  @ValidateNested()
  @Type(() => TriggerDto)
  trigger!: TriggerDto;

  @IsObject()
  @ValidateNested()
  @Type(() => EntryDto)
  entry!: EntryDto;

  @IsNumber({}, aPrice)
  @IsPositive(aPrice)
  @Max(1e12)
  stop!: number;

  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(4)
  @ValidateNested({ each: true })
  @Type(() => TargetDto)
  targets!: TargetDto[];

  @IsNumber({}, aPrice)
  @IsPositive(aPrice)
  @Max(1e12)
  invalidation!: number;

  @IsNumber({}, { message: "an expiry is a date and time" })
  @Min(0)
  @Max(8e15)
  expiry!: number;

  @IsOptional()
  @IsId()
  restsOn?: string;
}

export class SaveScenarioDto {
  /** Version the change was made on; 0 when it is new. */
  @IsInt()
  @Min(0)
  @Max(2_000_000_000)
  version!: number;

  @IsIn(["save", "remove"])
  step!: "save" | "remove";

  /** The moment the desk stands at, when that is a past one; a new scenario counts as written then. */
  @IsOptional()
  @IsNumber()
  @Min(0)
  @Max(8e15)
  writtenAt?: number;

  @IsObject()
  @ValidateNested()
  @Type(() => ScenarioDto)
  scenario!: ScenarioDto;
}
