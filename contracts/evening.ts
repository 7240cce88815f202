import "reflect-metadata";
import { Type } from "class-transformer";
import { ArrayMaxSize, IsArray, IsIn, IsString, Length, MaxLength, ValidateNested } from "class-validator";
import { VERDICTS, type Verdict } from "#core/round/verdict";

export class RemarkDto {
  @IsString()
  @Length(1, 60)
  market!: string;

  @IsIn(VERDICTS)
  verdict!: Verdict;

  @IsString()
  @MaxLength(500, { message: "a remark has at most 500 characters" })
  remark!: string;
}

/** What an evening leaves to the morning. */
export class EveningDto {
  @IsArray()
  @ArrayMaxSize(500)
  @ValidateNested({ each: true })
  @Type(() => RemarkDto)
  remarks!: RemarkDto[];
}
