/** So many whole times, never none: what moves goes on moving. @param times how many it would be, less than 0 backwards */
export const whole = (times: number): number => Math.sign(times) * Math.max(1, Math.round(Math.abs(times)));
