import "reflect-metadata";
