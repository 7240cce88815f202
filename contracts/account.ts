import "reflect-metadata";
import { IsEmail, IsIn, IsString, Length, Matches, MaxLength } from "class-validator";
import { ROLE_NAMES, type Role } from "#core/readers/roles";
import { ONE_LINE } from "#contracts/market";

/** The least a new password has (OWASP ASVS 4.0, 2.1.1); what else it must not be is asked of the server. */
export const SHORTEST_PASSWORD = 12;

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
  @Matches(ONE_LINE, { message: "a name is one line" })
  name!: string;

  @IsString()
  @Length(SHORTEST_PASSWORD, 200, { message: `a password has at least ${SHORTEST_PASSWORD} characters` })
  declare password: string;
}

export class ChangePasswordDto {
  @IsString()
  @Length(1, 200, { message: "the present password is missing" })
  current!: string;

  @IsString()
  @Length(SHORTEST_PASSWORD, 200, { message: `a password has at least ${SHORTEST_PASSWORD} characters` })
  next!: string;
}

/** Whoever joins by themselves; the password is chosen behind the link that is sent to the address. */
export class JoinDto {
  @IsEmail({}, { message: "this is not a mail address" })
  @MaxLength(254)
  email!: string;

  @IsString()
  @Length(1, 100, { message: "a name has 1 to 100 characters" })
  @Matches(ONE_LINE, { message: "a name is one line" })
  name!: string;

  @IsString()
  @Length(1, 36)
  plan!: string;
}

/** Whom the owner invites: they choose their password themselves. */
export class InviteDto extends JoinDto {
  @IsIn(ROLE_NAMES, { message: "there is no such role" })
  role!: Role;
}
