import "reflect-metadata";
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsNumber,
  IsOptional,
  IsString,
  Length,
  Max,
  MaxLength,
  Min,
} from "class-validator";
import { TiesDto } from "#contracts/market";
import { EVENT_KINDS, type EventKind, type Impact } from "#core/events/event";

/** Letters of the largest calendar taken in. */
export const LARGEST_CALENDAR = 4 * 1024 * 1024;
const LATEST = 8e15;

/** An event that is entered by hand. */
export class EventDto extends TiesDto {
  /** Empty for a new one. */
  @IsString()
  @Length(0, 36)
  id!: string;

  @IsIn(EVENT_KINDS, { message: "an event is a release, a speech, a holiday or an expiry" })
  kind!: EventKind;

  @IsString()
  @Length(1, 200, { message: "an event has a title of 1 to 200 characters" })
  title!: string;

  @IsNumber({}, { message: "an event has a date" })
  @Min(-LATEST)
  @Max(LATEST)
  at!: number;

  @IsOptional()
  @IsNumber()
  @Min(-LATEST)
  @Max(LATEST)
  until?: number;

  @IsBoolean()
  allDay!: boolean;

  @IsIn([1, 2, 3])
  impact!: Impact;

  @IsArray()
  @ArrayMaxSize(50)
  @IsString({ each: true })
  @Length(1, 60, { each: true })
  markets!: string[];

  @IsOptional()
  @IsString()
  @MaxLength(40)
  forecast?: string;

  @IsOptional()
  @IsString()
  @MaxLength(40)
  previous?: string;

  @IsOptional()
  @IsString()
  @MaxLength(40)
  actual?: string;
}
