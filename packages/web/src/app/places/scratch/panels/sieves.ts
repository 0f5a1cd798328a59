import { Component } from '@angular/core';
@Component({ selector: 'km-sieves', template: '' })
export class Sieves {}
