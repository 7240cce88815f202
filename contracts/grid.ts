import "reflect-metadata";
import { IsInt, IsNumber, IsPositive, Max, Min } from "class-validator";

/** The steps a market's prices stand on, as a person types them. */
export abstract class PriceGridDto {
  @IsNumber({}, { message: "the tick is a number above zero" })
  @IsPositive({ message: "the tick is a number above zero" })
  @Max(1e9)
  tick!: number;

  @IsInt({ message: "decimals are a whole number from 0 to 10" })
  @Min(0)
  @Max(10)
  decimals!: number;
}
