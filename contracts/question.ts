import "reflect-metadata";
import { IsIn, IsOptional, IsString, Length, MaxLength } from "class-validator";
import { LONGEST_QUESTION } from "#contracts/draft";

export const STANCES = ["question", "agree", "disagree"] as const;

/** What a reader says to an edition: agreement and disagreement have a reason, or they say nothing. */
export class QuestionDto {
  @IsIn(STANCES, { message: "this is neither a question, nor agreement, nor disagreement" })
  stance!: (typeof STANCES)[number];

  @IsString()
  @MaxLength(200)
  about!: string;

  /** Id of what is replied to. */
  @IsOptional()
  @IsString()
  @Length(1, 36)
  to?: string;

  @IsString()
  @Length(3, LONGEST_QUESTION, { message: `this has 3 to ${LONGEST_QUESTION} characters` })
  words!: string;
}
