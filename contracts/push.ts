import "reflect-metadata";
import { Type } from "class-transformer";
import { IsDefined, IsString, IsUrl, Matches, MaxLength, ValidateNested } from "class-validator";

class PushKeysDto {
  /** A point of P-256, uncompressed (65 bytes). */
  @IsString()
  @Matches(/^[A-Za-z0-9_-]{87}$/)
  p256dh!: string;

  /** 16 bytes. */
  @IsString()
  @Matches(/^[A-Za-z0-9_-]{22}$/)
  auth!: string;
}

/** How a browser is notified, as the Push API's `PushSubscription.toJSON()` tells it. */
export class PushDto {
  @IsString()
  @MaxLength(1_000)
  @IsUrl({ protocols: ["https", "http"], require_protocol: true, require_tld: false })
  endpoint!: string;

  @IsDefined()
  @ValidateNested()
  @Type(() => PushKeysDto)
  keys!: PushKeysDto;
}
