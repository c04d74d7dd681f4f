import { findAll } from '@ukiyo/core/editing';
import { expose } from 'comlink';

expose(findAll);
