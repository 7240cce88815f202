import "reflect-metadata";
import { Type } from "class-transformer";
import {
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Max,
  MaxLength,
  Min,
  ValidateNested,
  registerDecorator,
} from "class-validator";
import { IsId } from "#contracts/id";
import { ConditionFault } from "#core/conditions/fields";
import { readWrittenTerms } from "#core/written/readWritten";
import { RUNG } from "#contracts/mark";
import { visit } from "#core/written/visit";
import { RULES } from "#core/written/checklist";
import { RANKS, ROLES, type Rank, type ScenarioRole, type WrittenTerms } from "#core/written/written";

/** What is wrong with terms, in a sentence; `undefined` when they can be followed. */
function faultOf(value: unknown): string | undefined {
  try {
    let fault: string | undefined;
    visit(readWrittenTerms(value), "", (one, path) => {
      if (/(^|\.)rung$/.test(path) && !RUNG.test(one as string)) fault ??= `"${path}" is no rung that can be laid out`;
    });
    return fault;
  } catch (error) {
    if (error instanceof ConditionFault) return error.message.replace(/\.$/, "");
    throw error;
  }
}

/** Terms of a scenario are judged by whoever follows them. */
function AreTerms() {
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: "areTerms",
      target: target.constructor,
      propertyName,
      validator: {
        validate: (value) => faultOf(value) === undefined,
        defaultMessage: (of) => faultOf(of?.value) ?? "these are no terms of a scenario",
      },
    });
}

/** Reasons by the rule of the checklist they waive. */
function AreWaivers() {
  const isWaiver = ([rule, reason]: [string, unknown]) =>
    rule in RULES && typeof reason === "string" && reason.trim() !== "" && reason.length <= 300;
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: "areWaivers",
      target: target.constructor,
      propertyName,
      validator: {
        validate: (value) => typeof value === "object" && value !== null && Object.entries(value).every(isWaiver),
        defaultMessage: () => "a rule is waived with a reason of at most 300 characters",
      },
    });
}

export class ScenarioDto {
  @IsIn([2])
  format!: 2;

  @IsId()
  id!: string;

  @IsString()
  @Length(1, 80, { message: "a title has 1 to 80 characters" })
  title!: string;

  @IsString()
  @MaxLength(1000, { message: "a premise has at most 1,000 characters" })
  premise!: string;

  @IsIn(RANKS)
  rank!: Rank;

  @IsIn(ROLES)
  role!: ScenarioRole;

  @IsInt({ message: "a weight is a whole number of percent" })
  @Min(0, { message: "a weight is 0 to 100 %" })
  @Max(100, { message: "a weight is 0 to 100 %" })
  weight!: number;

  @IsObject()
  @AreTerms()
  terms!: WrittenTerms;

  @IsObject()
  @AreWaivers()
  waived!: Record<string, string>;

  @IsOptional()
  @IsId()
  restsOn?: string;

  @IsOptional()
  @IsId()
  pair?: string;
}

export class SaveScenarioDto {
  /** Version the change was made on; 0 when it is new. */
  @IsInt()
  @Min(0)
  @Max(2_000_000_000)
  version!: number;

  @IsIn(["save", "remove"])
  step!: "save" | "remove";

  /** The moment the desk stands at, when that is a past one; a new scenario counts as written then. */
  @IsOptional()
  @IsNumber()
  @Min(0)
  @Max(8e15)
  writtenAt?: number;

  @IsObject()
  @ValidateNested()
  @Type(() => ScenarioDto)
  scenario!: ScenarioDto;
}

/** A sentence that is kept to begin scenarios with: its prices are distances from the close, in ATR. */
export class SaveSentenceDto {
  @IsString()
  @Length(1, 60, { message: "a sentence has a name of 1 to 60 characters" })
  name!: string;

  @IsObject()
  @AreTerms()
  terms!: WrittenTerms;
}

export class DropSentenceDto {
  @IsId()
  id!: string;
}

/** A rule that is run over a market's past. */
export class RuleHistoryDto {
  @IsObject()
  @AreTerms()
  terms!: WrittenTerms;

  /** How long each time it may wait for its entry, in days. */
  @IsNumber()
  @Min(0.01)
  @Max(3660)
  days!: number;

  /** The past it is run over, by instants. */
  @IsOptional()
  @IsNumber()
  @Min(-8e15)
  @Max(8e15)
  from?: number;

  @IsOptional()
  @IsNumber()
  @Min(-8e15)
  @Max(8e15)
  to?: number;

  @IsInt()
  @Min(1)
  @Max(2_000_000_000)
  seed!: number;
}
