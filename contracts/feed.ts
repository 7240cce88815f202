import "reflect-metadata";
import { IsIn, IsInt, IsOptional, Max, Min } from "class-validator";
import { SPEEDS } from "#contracts/speeds";

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
