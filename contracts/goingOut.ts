import "reflect-metadata";
import { Type } from "class-transformer";
import { ArrayContains, ArrayMaxSize, ArrayMinSize, IsArray, IsBoolean, IsIn, ValidateNested } from "class-validator";
import { EDITION_KINDS, KIND_NAMES, TEMPLATE_BLOCKS, type EditionKind, type TemplateBlock } from "#core/edition/blocks";

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

/** What a desk decides for all who work at it. */
export class DeskSettingsDto {
  @IsBoolean()
  reading!: boolean;

  @IsArray()
  @ArrayMaxSize(Object.keys(EDITION_KINDS).length)
  @ValidateNested({ each: true })
  @Type(() => TemplateDto)
  templates!: TemplateDto[];
}
