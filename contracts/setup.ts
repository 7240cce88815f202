import "reflect-metadata";
import { IsIn, IsNumber, IsString, Length, Matches, Max, Min } from "class-validator";
import { RUNG } from "#contracts/mark";

const aPrice = { message: "a price is a number" };

/** A setup that was passed or missed. */
export class SetupDto {
  @IsString()
  @Length(1, 60)
  market!: string;

  @Matches(RUNG)
  rung!: string;

  @IsIn(["passed", "missed"])
  what!: "passed" | "missed";

  @IsString()
  @Length(1, 500, { message: "a reason has 1 to 500 characters" })
  reason!: string;

  @IsIn(["long", "short"])
  direction!: "long" | "short";

  @IsNumber({}, aPrice)
  @Min(-1e12)
  @Max(1e12)
  entry!: number;

  @IsNumber({}, aPrice)
  @Min(-1e12)
  @Max(1e12)
  stop!: number;

  @IsNumber({}, aPrice)
  @Min(-1e12)
  @Max(1e12)
  target!: number;
}
