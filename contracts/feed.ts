import "reflect-metadata";
import { IsIn, IsInt, IsOptional, Max, Min } from "class-validator";

/** Market minutes in a second of the wall clock. */
export const SPEEDS = [0, 1, 10, 60] as const;

export class FeedDto {
  @IsOptional()
  @IsIn(SPEEDS)
  speed?: number;

  /** Market minutes to go on at once. */
  @IsOptional()
  @IsInt()
  @Min(1)
  @Max(7 * 1440)
  advance?: number;
}
