import "reflect-metadata";
import { ArrayMaxSize, IsArray, IsObject, IsString, Length } from "class-validator";
import { MOST_STUDIES } from "#core/studies/limits";

/** Studies; each is read by `readChosenStudy`. */
class StudiesDto {
  @IsArray()
  @ArrayMaxSize(MOST_STUDIES, { message: `there are at most ${MOST_STUDIES} studies` })
  @IsObject({ each: true })
  studies!: Record<string, unknown>[];
}

/** The studies on the charts of a set of rungs. */
export class SaveStudiesDto extends StudiesDto {
  /** Empty for the set that everybody has. */
  @IsString()
  @Length(0, 36)
  set!: string;
}

/** A look: studies under a name, to be put on any chart. */
export class KeepLookDto extends StudiesDto {
  @IsString()
  @Length(1, 60, { message: "a look has a name of 1 to 60 characters" })
  name!: string;
}

export class DropLookDto {
  @IsString()
  @Length(1, 60)
  name!: string;
}
