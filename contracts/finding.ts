import "reflect-metadata";
import { IsObject, IsString, Length } from "class-validator";

/** What the machine shall look for on a set of rungs. */
export class FindingParamsDto {
  /** Empty for the set everybody has. */
  @IsString()
  @Length(0, 36)
  set!: string;

  @IsObject()
  params!: Record<string, unknown>;
}
