import "reflect-metadata";
import { Type } from "class-transformer";
import {
  ArrayMaxSize,
  ArrayUnique,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  IsTimeZone,
  Length,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from "class-validator";
import { KIND_NAMES, type EditionKind } from "#core/edition/blocks";
import { MOMENT_NAMES, type MomentName } from "#core/readers/choices";

export class QuietHoursDto {
  @IsInt()
  @Min(0)
  @Max(23)
  from!: number;

  @IsInt()
  @Min(0)
  @Max(23)
  to!: number;
}

/** What a reader chooses to be sent, and how pages are read. */
export class ReaderChoicesDto {
  @IsBoolean()
  mail!: boolean;

  @IsBoolean()
  digest!: boolean;

  @IsArray()
  @ArrayMaxSize(KIND_NAMES.length)
  @ArrayUnique({ message: "a kind is named twice" })
  @IsIn(KIND_NAMES, { each: true, message: "there is no such kind of edition" })
  kinds!: EditionKind[];

  @IsArray()
  @ArrayMaxSize(200)
  @IsString({ each: true })
  @Length(1, 60, { each: true })
  markets!: string[];

  @IsArray()
  @ArrayMaxSize(MOMENT_NAMES.length)
  @ArrayUnique({ message: "a moment is named twice" })
  @IsIn(MOMENT_NAMES, { each: true, message: "there is no such moment" })
  moments!: MomentName[];

  @IsBoolean()
  corrections!: boolean;

  @IsOptional()
  @ValidateNested()
  @Type(() => QuietHoursDto)
  quiet?: QuietHoursDto;

  @IsString()
  @MaxLength(60)
  @IsTimeZone({ message: "there is no such time zone" })
  zone!: string;

  @IsBoolean()
  larger!: boolean;
}
