import "reflect-metadata";
import { Type } from "class-transformer";
import type { CopyOf } from "#core/marks/equivalent";
import type { FoundFrom } from "#core/marks/foundFrom";
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
  IsUUID,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from "class-validator";

export const RUNG = /^P(T\d{1,4}[MH]|\d{1,3}[DWMY])$/;

export class AnchorDto {
  @IsNumber()
  time!: number;

  @IsNumber()
  @Min(-1e12)
  @Max(1e12)
  price!: number;
}

export class MarkDto {
  @IsUUID()
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
  @ValidateNested({ each: true })
  @Type(() => AnchorDto)
  anchors!: AnchorDto[];

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
  @IsUUID()
  id!: string;

  @IsIn(["set", "remove"])
  step!: "set" | "remove";

  /** Version the change was made on; 0 when the mark is new. */
  @IsInt()
  @Min(0)
  version!: number;

  @ValidateNested()
  @Type(() => MarkDto)
  mark!: MarkDto;
}

export class StepsDto {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @ValidateNested({ each: true })
  @Type(() => StepDto)
  steps!: StepDto[];
}
