import "reflect-metadata";
import { IsEmail, IsString, Length, MaxLength } from "class-validator";

export class SignInDto {
  @IsEmail({}, { message: "this is not a mail address" })
  @MaxLength(254)
  email!: string;

  @IsString()
  @Length(1, 200, { message: "the password is missing" })
  password!: string;
}

export class NewAccountDto extends SignInDto {
  @IsString()
  @Length(1, 100, { message: "a name has 1 to 100 characters" })
  name!: string;

  @IsString()
  @Length(10, 200, { message: "a password has at least 10 characters" })
  declare password: string;
}
