import "reflect-metadata";
import { Type } from "class-transformer";
import { ArrayMaxSize, IsArray, IsInt, IsString, IsUUID, Length, Matches, MaxLength, Min, ValidateNested } from "class-validator";
import { RUNG } from "#contracts/mark";

export class SectionDto {
  @IsString()
  @Length(1, 60)
  market!: string;

  @IsString()
  @Matches(RUNG)
  rung!: string;

  @IsArray()
  @ArrayMaxSize(10)
  @IsUUID(undefined, { each: true })
  scenarios!: string[];
}

export class DraftDto {
  @IsInt()
  @Min(1)
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
