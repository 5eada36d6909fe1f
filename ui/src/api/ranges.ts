// Derived from the contract by `make contract`. Do not edit.

/** What the figures of each record lie between, as the server holds them. */
export const ranges = {
  Abrasives: {
    coarser: { min: 1, max: 20 },
    cutRatio: { min: 1.2, max: 20 },
    damageHigh: { min: 0.5, max: 10 },
    damageLow: { min: 0.5, max: 10 },
    polishRatio: { min: 1.2, max: 200 },
    smearBelow: { min: 1, max: 10 },
    softBelow: { min: 1, max: 10 },
  },
  AcrossRead: {
    mm: { min: 0.1, max: 500 },
  },
  AddItemRequest: {
    size: { min: 0, max: 100000 },
  },
  Adhesive: {
    minutes: { min: 0, max: 10080 },
  },
  AnglesRequest: {
    step: { min: 0, max: 5 },
    width: { min: 0.1, max: 500 },
  },
  AnglesTarget: {
    crownFactor: { min: 0.1, max: 10 },
    margin: { min: -20, max: 40 },
    refractiveIndex: { min: 1.01, max: 4 },
  },
  AtWheelRequest: {
    girdleSpare: { min: 0, max: 2 },
  },
  Axis: {
    from: { min: 0, max: 90 },
    steps: { min: 2, max: 60, whole: true },
    tier: { min: 0, max: 500, whole: true },
    to: { min: 0, max: 90 },
  },
  BeginFreehandRequest: {
    gear: { min: 1, max: 360, whole: true },
    width: { min: 0.5, max: 500 },
  },
  Blade: {
    diameter: { min: 10, max: 1000 },
    kerf: { min: 0.05, max: 10 },
  },
  Calipered: {
    mm: { min: 0.1, max: 500 },
  },
  CameBack: {
    widthMM: { min: 0, max: 500 },
  },
  Cheating: {
    skip: { min: 1, max: 360, whole: true },
  },
  Choices: {
    gear: { min: 1, max: 360, whole: true },
    girdleSpare: { min: 0, max: 2 },
  },
  Compound: {
    grain: { min: 0, max: 1000 },
  },
  CopyPlan: {
    keep: { min: 1, max: 365, whole: true },
  },
  Damage: {
    clearance: { min: 0, max: 10 },
  },
  Dop: {
    diameter: { min: 0.5, max: 100 },
  },
  DopUp: {
    index: { min: 0, max: 360 },
  },
  EstimateRequest: {
    allowance: { min: 0, max: 100 },
  },
  FaceRequest: {
    grid: { min: 16, max: 512, whole: true },
    headAngle: { min: 0, max: 90 },
    tilt: { min: 0, max: 85 },
    to: { min: -360, max: 360 },
  },
  FindAngleRequest: {
    tier: { min: 0, max: 399, whole: true },
    width: { min: 0.1, max: 500 },
  },
  Finish: {
    finishedCarats: { min: 0, max: 100000 },
    heightMM: { min: 0, max: 1000 },
    hours: { min: 0, max: 10000 },
    lengthMM: { min: 0, max: 1000 },
    price: { min: 0, max: 1000000000000, whole: true },
    roughCarats: { min: 0, max: 100000 },
    widthMM: { min: 0, max: 1000 },
  },
  FitRequest: {
    girdle: { min: 0, max: 5 },
    step: { min: 0.01, max: 5 },
  },
  FittingRequest: {
    allowance: { min: 0, max: 100 },
    rounds: { min: 0, max: 20, whole: true },
  },
  FlushReadings: {
    readings: { min: -5, max: 95 },
  },
  FoundFlush: {
    angle: { min: 0, max: 180 },
    index: { min: 0, max: 360 },
  },
  FreehandSetting: {
    angle: { min: 0, max: 90 },
    indexes: { min: 0, max: 360 },
  },
  FreehandUntil: {
    size: { min: 0, max: 500 },
  },
  GearsRequest: {
    width: { min: 0.1, max: 500 },
  },
  GirdleAt: {
    index: { min: 0, max: 360 },
    mm: { min: 0, max: 20 },
  },
  GirdleRequest: {
    headAngle: { min: 0, max: 90 },
    passes: { min: 0, max: 12, whole: true },
    refractiveIndex: { min: 1.01, max: 4 },
    width: { min: 0.1, max: 500 },
  },
  Habits: {
    allowance: { min: 0, max: 10 },
    girdleSpare: { min: 0, max: 2 },
    kerf: { min: 0, max: 20 },
  },
  HappenedRequest: {
    flatness: { min: 0, max: 5000 },
    grain: { min: 0, max: 1000 },
    hardness: { min: 0, max: 10 },
    have: { min: 0, max: 100000 },
  },
  Held: {
    distance: { min: -1000, max: 1000 },
    tier: { min: 0, max: 399, whole: true },
  },
  Hold: {
    tilt: { min: 0, max: 30 },
    towards: { min: 0, max: 360 },
  },
  HolesRequest: {
    holes: { min: 0, max: 1000 },
    pegs: { min: 10, max: 1000 },
  },
  Instrument: {
    baud: { min: 300, max: 4000000, whole: true },
  },
  InstrumentScale: {
    offset: { min: -10000, max: 10000 },
  },
  Intake: {
    carats: { min: 0, max: 100000 },
    heightMM: { min: 0, max: 1000 },
    lengthMM: { min: 0, max: 1000 },
    widthMM: { min: 0, max: 1000 },
  },
  Item: {
    lasts: { min: 0, max: 100000 },
    low: { min: 0, max: 100000 },
    shelfMonths: { min: 0, max: 600 },
  },
  KitGear: {
    teeth: { min: 1, max: 360, whole: true },
  },
  KnownTouch: {
    angle: { min: 0, max: 120 },
    distance: { min: -1000, max: 1000 },
    height: { min: -1000, max: 1000 },
  },
  Lap: {
    diameter: { min: 10, max: 1000 },
    grain: { min: 0, max: 1000 },
    hub: { min: 0, max: 500 },
  },
  LitDraft: {
    headAngle: { min: 0, max: 90 },
    refractiveIndex: { min: 1.01, max: 4 },
    width: { min: 0.1, max: 500 },
  },
  LookRequest: {
    grid: { min: 16, max: 512, whole: true },
    headAngle: { min: 0, max: 90 },
    refractiveIndex: { min: 1.01, max: 4 },
    tilt: { min: 0, max: 85 },
    to: { min: -360, max: 360 },
    width: { min: 0.1, max: 500 },
  },
  LoupeRequest: {
    gear: { min: 0, max: 360, whole: true },
    width: { min: 0.1, max: 500 },
  },
  Machine: {
    angleHigh: { min: 30, max: 180 },
    angleLow: { min: -30, max: 90 },
    angleStep: { min: 0.001, max: 5 },
    angleZero: { min: -5, max: 5 },
    cheatPerTurn: { min: 0, max: 30 },
    gears: { min: 1, max: 360, whole: true },
    heightStep: { min: 0, max: 1 },
    holes: { min: 0, max: 1000 },
    pegs: { min: 10, max: 1000 },
    quillMM: { min: 0, max: 200 },
    reachMM: { min: 0, max: 300 },
    repeatability: { min: 0, max: 2 },
    tableAdapter: { min: 0, max: 90 },
  },
  MaterialsRequest: {
    headAngle: { min: 0, max: 90 },
    refractiveIndex: { min: 1.01, max: 4 },
    width: { min: 0.1, max: 500 },
  },
  MeasuredStone: {
    crown: { min: 0, max: 89 },
    crownFacets: { min: 0, max: 2000, whole: true },
    girdle: { min: 0, max: 50 },
    girdleFacets: { min: 0, max: 2000, whole: true },
    height: { min: 0, max: 500 },
    length: { min: 0, max: 500 },
    pavilion: { min: 0, max: 89 },
    pavilionFacets: { min: 0, max: 2000, whole: true },
    table: { min: 0, max: 500 },
    width: { min: 0.1, max: 500 },
  },
  OffcutRequest: {
    trim: { min: 0, max: 99, whole: true },
  },
  Parcel: {
    amount: { min: 0, max: 1000000000000, whole: true },
    postage: { min: 0, max: 1000000000000, whole: true },
  },
  ParcelLine: {
    amount: { min: 0, max: 1000000000000, whole: true },
    postage: { min: 0, max: 1000000000000, whole: true },
  },
  PhotoMark: {
    x: { min: 0, max: 1 },
    y: { min: 0, max: 1 },
  },
  PickRequest: {
    x: { min: 0, max: 90 },
    y: { min: 0, max: 90 },
  },
  PolishWay: {
    minutes: { min: 0, max: 1000 },
    result: { min: 1, max: 4, whole: true },
    rpm: { min: 0, max: 10000 },
    strokes: { min: 0, max: 100000, whole: true },
  },
  PreformHabit: {
    foot: { min: 0, max: 5 },
    side: { min: 0, max: 5 },
    under: { min: 0, max: 10 },
  },
  Price: {
    amount: { min: 0, max: 1000000000, whole: true },
    from: { min: 0, max: 10000 },
  },
  PullRequest: {
    tier: { min: 0, max: 399, whole: true },
  },
  PullStopRequest: {
    distance: { min: -1000, max: 1000 },
    tier: { min: 0, max: 399, whole: true },
  },
  ReadRequest: {
    angles: { min: 0, max: 9, whole: true },
  },
  ReadingsRequest: {
    readings: { min: -360, max: 360 },
  },
  RecipePart: {
    amount: { min: 0, max: 100000 },
  },
  RecipeStep: {
    minutes: { min: 0, max: 10080 },
  },
  RecutAsked: {
    degrees: { min: 0, max: 10 },
    hides: { min: 0, max: 20 },
  },
  Reshape: {
    by: { min: -360, max: 360 },
    fold: { min: 0, max: 360, whole: true },
  },
  ReshapeRequest: {
    tier: { min: 0, max: 399, whole: true },
  },
  RollRequest: {
    readings: { min: 0.1, max: 500 },
    wanted: { min: 0, max: 500 },
  },
  RoughAxis: {
    toTable: { min: 0, max: 90 },
  },
  RoughFlaw: {
    radius: { min: 0, max: 1000 },
  },
  RoughSilhouette: {
    corners: { min: -1000, max: 1000 },
    index: { min: 0, max: 360 },
    off: { min: 0, max: 1000 },
  },
  RoughSurvey: {
    gear: { min: 1, max: 360, whole: true },
    reading: { min: 0, max: 1 },
  },
  RoughTouch: {
    angle: { min: 0, max: 120 },
    height: { min: -1000, max: 1000 },
    index: { min: 0, max: 360 },
  },
  RoughTrim: {
    distance: { min: -1000, max: 1000 },
    kerf: { min: 0, max: 1000 },
  },
  RoughWidth: {
    angle: { min: 0, max: 120 },
    index: { min: 0, max: 360 },
    reading: { min: 0, max: 1000 },
  },
  Rule: {
    height: { min: 0.1, max: 10 },
    sides: { min: 3, max: 60, whole: true },
  },
  RuleRequest: {
    acrossMM: { min: 0.1, max: 500 },
    cornerMM: { min: 0, max: 100 },
    edgeMM: { min: 0, max: 100 },
    gear: { min: 1, max: 360, whole: true },
    refractiveIndex: { min: 1, max: 4 },
  },
  RunRequest: {
    stones: { min: 2, max: 24, whole: true },
  },
  SeatRequest: {
    length: { min: 0, max: 500 },
    width: { min: 0, max: 500 },
  },
  SecondSideRequest: {
    left: { min: 0.05, max: 500 },
  },
  SimulatedBeside: {
    pace: { min: 0.1, max: 50 },
  },
  SimulatedControls: {
    angle: { min: 5, max: 110 },
    cheat: { min: -30, max: 30 },
    force: { min: 0.5, max: 30 },
    height: { min: -20, max: 140 },
    lap: { min: 0, max: 20, whole: true },
    rpm: { min: 0, max: 3000 },
    tooth: { min: 1, max: 360, whole: true },
    turns: { min: 1, max: 60 },
  },
  SimulatedErrors: {
    adapter: { min: -5, max: 5 },
    angle: { min: 0, max: 2 },
    bend: { min: 0, max: 0.1 },
    depth: { min: 0, max: 0.5 },
    index: { min: 0, max: 2 },
    tilt: { min: 0, max: 15 },
    towards: { min: 0, max: 360 },
    twist: { min: -15, max: 15 },
    zero: { min: -5, max: 5 },
  },
  SimulatedSetup: {
    gear: { min: 8, max: 360, whole: true },
    hardness: { min: 2, max: 10 },
    height: { min: 2, max: 60 },
    seed: { min: 0, max: 1000000, whole: true },
    sg: { min: 0.8, max: 20 },
    width: { min: 2, max: 60 },
  },
  Size: {
    mm: { min: 0.1, max: 500 },
  },
  SolidRequest: {
    gear: { min: 1, max: 360, whole: true },
    refractiveIndex: { min: 1, max: 4 },
  },
  SolveRequest: {
    gear: { min: 0, max: 360, whole: true },
  },
  SplitsRequest: {
    allowance: { min: 0, max: 100 },
    kerf: { min: 0, max: 20 },
  },
  SurveyRequest: {
    carat: { min: 0, max: 1000000 },
  },
  SweepAsked: {
    headAngle: { min: 0, max: 90 },
    refractiveIndex: { min: 1.01, max: 4 },
    width: { min: 0.1, max: 500 },
  },
  SweepRequest: {
    headAngle: { min: 0, max: 90 },
    refractiveIndex: { min: 1.01, max: 4 },
    width: { min: 0.1, max: 500 },
  },
  TierChange: {
    angle: { min: 0, max: 90 },
  },
  ToleranceRequest: {
    angle: { min: 0, max: 5 },
    depth: { min: 0, max: 1 },
    index: { min: 0, max: 5 },
    trials: { min: 20, max: 50000, whole: true },
    width: { min: 0.1, max: 500 },
  },
  VariantsRequest: {
    headAngle: { min: 0, max: 90 },
  },
  Wish: {
    gear: { min: 16, max: 360, whole: true },
    girdle: { min: 4, max: 32, whole: true },
    lengthWidth: { min: 1, max: 2 },
    refractiveIndex: { min: 1.3, max: 4 },
    sides: { min: 3, max: 32, whole: true },
    slant: { min: 20, max: 90 },
    table: { min: 0.4, max: 0.75 },
    widest: { min: 0.1, max: 0.5 },
  },
  WithoutRequest: {
    headAngle: { min: 0, max: 90 },
    passes: { min: 0, max: 12, whole: true },
    refractiveIndex: { min: 1.01, max: 4 },
    tier: { min: 0, max: 399, whole: true },
    width: { min: 0.1, max: 500 },
  },
} as const;
