// TODO
