import "reflect-metadata";
import { Type } from "class-transformer";
import {
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from "class-validator";
import { PAYMENTS, type Payment } from "#core/readers/membership";

/** The last instant that is taken for one (ms): the year 3000. */
const LAST = 32_503_680_000_000;

export class PaymentDataDto {
  /** Id of the reader's account. */
  @IsString()
  @Length(1, 36)
  account!: string;

  /** Id of the plan. */
  @IsString()
  @Length(1, 36)
  plan!: string;

  /** When it happened, and until when it holds; milliseconds since 1970. */
  @IsInt()
  @Min(0)
  @Max(LAST)
  at!: number;

  @IsOptional()
  @IsInt()
  @Min(0)
  @Max(LAST)
  until?: number;
}

/** What a payment house says of a reader's membership. */
export class PaymentDto {
  @IsIn(PAYMENTS.map((kind) => `membership.${kind}`), { message: "this is nothing that is known of memberships" })
  type!: `membership.${Payment}`;

  /** When it was said; when it happened stands with the data. */
  @IsOptional()
  @IsString()
  @MaxLength(40)
  timestamp?: string;

  @IsObject()
  @ValidateNested()
  @Type(() => PaymentDataDto)
  data!: PaymentDataDto;
}
