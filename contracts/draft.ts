import "reflect-metadata";
import { Type } from "class-transformer";
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsInt,
  IsObject,
  IsOptional,
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

/**
 * Degrees of waves a picture shows of each count, from its own down, and whether alternates stand beside the preferred.
 */
export class SectionCountsDto {
  @IsInt()
  @Min(1)
  @Max(9)
  degrees!: number;

  @IsBoolean()
  alternates!: boolean;
}

export class SectionDto {
  @IsString()
  @Length(1, 60)
  market!: string;

  @IsString()
  @Matches(RUNG)
  rung!: string;

  @IsArray()
  @ArrayMaxSize(10)
  @IsId({ each: true })
  scenarios!: string[];

  /** What the picture shows of the market's counts; all that the desk shows when it is not said. */
  @IsOptional()
  @IsObject()
  @ValidateNested()
  @Type(() => SectionCountsDto)
  counts?: SectionCountsDto;
}

export class DraftDto {
  @IsInt()
  @Min(1)
  @Max(2_000_000_000)
  version!: number;

  @IsString()
  @MaxLength(200, { message: "a title has at most 200 characters" })
  title!: string;

  @IsString()
  @MaxLength(20000, { message: "the text has at most 20,000 characters" })
  body!: string;

  @IsArray()
  @ArrayMaxSize(30)
  @ValidateNested({ each: true })
  @Type(() => SectionDto)
  sections!: SectionDto[];
}
