import "reflect-metadata";
import { Type } from "class-transformer";
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsBoolean,
  IsIn,
  IsInt,
  IsString,
  Length,
  Matches,
  Max,
  Min,
  ValidateNested,
} from "class-validator";
import { RUNG } from "#contracts/mark";
import { RUNG_ROLES, type RungOfSet, type RungRole } from "#core/time/rungs";

export class RungDto implements RungOfSet {
  @IsString()
  @Matches(RUNG, { message: "a timeframe is a count and a unit, such as 45 minutes" })
  rung!: string;

  @IsIn(RUNG_ROLES)
  role!: RungRole;
}

export class SaveRungSetDto {
  @IsString()
  @Length(0, 36)
  id!: string;

  @IsInt()
  @Min(0)
  @Max(2_000_000_000)
  version!: number;

  @IsString()
  @Length(1, 60, { message: "a set has a name of 1 to 60 characters" })
  name!: string;

  @ValidateNested({ each: true })
  @Type(() => RungDto)
  @ArrayMinSize(1, { message: "a set has at least one rung" })
  @ArrayMaxSize(20, { message: "a set has at most 20 rungs" })
  rungs!: RungDto[];

  @IsIn(["down", "up"])
  walk!: "down" | "up";

  @IsBoolean()
  chosen!: boolean;
}
