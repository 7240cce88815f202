import "reflect-metadata";
import { ArrayMaxSize, IsArray, Matches } from "class-validator";
import { RUNG } from "#contracts/mark";

/** The rungs that speak for each horizon. */
export class HorizonsDto {
  @IsArray()
  @ArrayMaxSize(30)
  @Matches(RUNG, { each: true })
  long!: string[];

  @IsArray()
  @ArrayMaxSize(30)
  @Matches(RUNG, { each: true })
  medium!: string[];

  @IsArray()
  @ArrayMaxSize(30)
  @Matches(RUNG, { each: true })
  short!: string[];
}
