export const stations = ['north'];
