import "reflect-metadata";
import { IsObject, IsOptional, IsString, Length } from "class-validator";

/** Nothing, to be asked for a passkey; or a device's answer (WebAuthn) with the token of the question it is to. */
export class PasskeyDto {
  @IsOptional()
  @IsString()
  @Length(1, 100)
  token?: string;

  /** Judged by what verifies it. */
  @IsOptional()
  @IsObject()
  response?: object;
}
