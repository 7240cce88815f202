import "reflect-metadata";
import { Type } from "class-transformer";
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsObject,
  IsString,
  Length,
  Matches,
  ValidateNested,
} from "class-validator";
import { RUNG } from "#contracts/mark";
import type { Shown } from "#core/marks/shown";

/** One chart of a layout: of the market that is open, or of one that stays whichever is open. */
export class PaneDto {
  @IsString()
  @Length(0, 60)
  market!: string;

  @IsString()
  @Matches(RUNG)
  rung!: string;
}

class ShownDto implements Shown {
  @IsArray()
  @ArrayMaxSize(40)
  @IsString({ each: true })
  @Length(1, 30, { each: true })
  without!: readonly string[];

  @IsBoolean()
  higher!: boolean;

  @IsBoolean()
  dead!: boolean;
}

export const MOST_PANES = 6;

/** The charts an analyst has side by side, and what they leave out. */
export class LayoutDto {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_PANES, { message: `there are at most ${MOST_PANES} charts` })
  @ValidateNested({ each: true })
  @Type(() => PaneDto)
  panes!: PaneDto[];

  @IsObject()
  @ValidateNested()
  @Type(() => ShownDto)
  shown!: ShownDto;
}
