import { anchoredAverageStudy } from "#core/studies/anchoredAverage";
import { aroonStudy } from "#core/studies/aroon";
import { atrStudy } from "#core/studies/atr";
import { betaStudy, correlationStudy } from "#core/studies/beta";
import { bollingerStudy } from "#core/studies/bollinger";
import { cloudStudy } from "#core/studies/cloud";
import { commodityChannelStudy } from "#core/studies/commodityChannel";
import { directionalMovementStudy } from "#core/studies/directionalMovement";
import { distanceFromMeanStudy } from "#core/studies/distanceFromMean";
import { donchianMiddleStudy, donchianStudy } from "#core/studies/donchian";
import { emaStudy } from "#core/studies/ema";
import { heikinAshiStudy } from "#core/studies/heikinAshi";
import { keltnerStudy } from "#core/studies/keltner";
import { linearRegressionStudy } from "#core/studies/linearRegression";
import { macdStudy } from "#core/studies/macd";
import { moneyFlowStudy } from "#core/studies/moneyFlow";
import { onBalanceVolumeStudy } from "#core/studies/onBalanceVolume";
import { openingRangeStudy } from "#core/studies/openingRange";
import { pivotLevelsStudy } from "#core/studies/pivotLevels";
import { rangeAheadStudy } from "#core/studies/rangeAhead";
import { rangeUseStudy } from "#core/studies/rangeUse";
import { rateOfChangeStudy } from "#core/studies/rateOfChange";
import { relativeStudy } from "#core/studies/relative";
import { rsiStudy } from "#core/studies/rsi";
import { smaStudy } from "#core/studies/sma";
import { stochasticStudy } from "#core/studies/stochastic";
import type { Study } from "#core/studies/study";
import { williamsRStudy } from "#core/studies/williamsR";
import { wmaStudy } from "#core/studies/wma";
import { zscoreStudy } from "#core/studies/zscore";

/** Every study, once: whoever reads, draws or asks one reads it from here. */
export const STUDIES: readonly Study[] = [
  smaStudy,
  emaStudy,
  wmaStudy,
  rsiStudy,
  atrStudy,
  moneyFlowStudy,
  macdStudy,
  directionalMovementStudy,
  bollingerStudy,
  stochasticStudy,
  cloudStudy,
  correlationStudy,
  keltnerStudy,
  donchianStudy,
  donchianMiddleStudy,
  onBalanceVolumeStudy,
  commodityChannelStudy,
  heikinAshiStudy,
  linearRegressionStudy,
  anchoredAverageStudy,
  rateOfChangeStudy,
  williamsRStudy,
  aroonStudy,
  zscoreStudy,
  distanceFromMeanStudy,
  relativeStudy,
  betaStudy,
  rangeUseStudy,
  pivotLevelsStudy,
  rangeAheadStudy,
  openingRangeStudy,
];

export const studyOf = (name: string): Study | undefined => STUDIES.find((study) => study.name === name);
