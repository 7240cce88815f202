import "reflect-metadata";
import { Type } from "class-transformer";
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsIn,
  IsNumber,
  IsPositive,
  IsString,
  Length,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from "class-validator";
import { PriceGridDto } from "#contracts/grid";
import { FORMS, type Form } from "#core/series/formula";

export class LegDto {
  @IsString()
  @Length(1, 60, { message: "choose a market" })
  market!: string;

  /** Units in a spread (below zero: sold), weight in a basket; 1 or -1 in a product or quotient. */
  @IsNumber({}, { message: "the weight is a number" })
  @Min(-1e9)
  @Max(1e9)
  units!: number;
}

/** A market made of others. */
export class DeriveMarketDto extends PriceGridDto {
  @IsString()
  @Length(1, 80, { message: "a market has a name of 1 to 80 characters" })
  name!: string;

  @IsIn(FORMS)
  form!: Form;

  @ValidateNested({ each: true })
  @Type(() => LegDto)
  @ArrayMinSize(2, { message: "at least two markets are needed" })
  @ArrayMaxSize(30, { message: "at most 30 markets can be put together" })
  legs!: LegDto[];

  @IsNumber({}, { message: "the scale is a number above zero" })
  @IsPositive({ message: "the scale is a number above zero" })
  @Max(1e12)
  scale!: number;

  /** The leg whose sessions it has; empty for the one that is open the shortest. */
  @IsString()
  @MaxLength(60)
  hoursOf!: string;
}
