/** Mid-grey: 18 % of white as light, as density, and as the signal of a BT.1886 display. */
export const MID_GREY = 0.18;
export const MID_GREY_DENSITY = 0.7447;
export const MID_GREY_SIGNAL = 0.4894;
