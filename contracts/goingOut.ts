import "reflect-metadata";
import { Type } from "class-transformer";
import {
  ArrayContains,
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsObject,
  IsString,
  Length,
  Matches,
  ValidateNested,
} from "class-validator";
import { EDITION_KINDS, KIND_NAMES, TEMPLATE_BLOCKS, type EditionKind, type TemplateBlock } from "#core/edition/blocks";
import { MASTHEAD_PIGMENTS, type Masthead } from "#core/edition/masthead";
import { ONE_LINE } from "#contracts/market";

/** Blocks a template has at most. */
export const MOST_OF_TEMPLATE = 10;

export class TemplateDto {
  @IsIn(KIND_NAMES, { message: "there is no such kind of edition" })
  kind!: EditionKind;

  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_OF_TEMPLATE)
  @IsIn(TEMPLATE_BLOCKS, { each: true, message: "there is no such block" })
  @ArrayContains(["risk"], { message: "every edition has its risk notice" })
  blocks!: TemplateBlock[];
}

export class MastheadDto implements Masthead {
  @IsString()
  @Length(1, 60, { message: "the desk's name has 1 to 60 characters" })
  @Matches(ONE_LINE, { message: "the desk's name is one line" })
  name!: string;

  @IsIn(MASTHEAD_PIGMENTS, { message: "there is no such pigment" })
  pigment!: Masthead["pigment"];
}

/** What a desk decides for all who work at it. */
export class DeskSettingsDto {
  @IsObject()
  @ValidateNested()
  @Type(() => MastheadDto)
  masthead!: MastheadDto;

  @IsBoolean()
  reading!: boolean;

  @IsArray()
  @ArrayMaxSize(Object.keys(EDITION_KINDS).length)
  @ValidateNested({ each: true })
  @Type(() => TemplateDto)
  templates!: TemplateDto[];
}
