import "reflect-metadata";
import { ArrayMaxSize, IsArray, IsObject, IsString, Length } from "class-validator";
import { MOST_STUDIES } from "#core/studies/limits";

/** The studies on the charts of a set of rungs; each is read by `readChosenStudy`. */
export class SaveStudiesDto {
  /** Empty for the set that everybody has. */
  @IsString()
  @Length(0, 36)
  set!: string;

  @IsArray()
  @ArrayMaxSize(MOST_STUDIES, { message: `there are at most ${MOST_STUDIES} studies` })
  @IsObject({ each: true })
  studies!: Record<string, unknown>[];
}

/** A look: studies under a name, to be put on any chart. */
export class KeepLookDto {
  @IsString()
  @Length(1, 60, { message: "a look has a name of 1 to 60 characters" })
  name!: string;

  @IsArray()
  @ArrayMaxSize(MOST_STUDIES, { message: `there are at most ${MOST_STUDIES} studies` })
  @IsObject({ each: true })
  studies!: Record<string, unknown>[];
}

export class DropLookDto {
  @IsString()
  @Length(1, 60)
  name!: string;
}
